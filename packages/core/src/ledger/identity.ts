// Whether a frame is an exposure that is known already, whatever has been done to its file since: packed, converted, renamed, written again.
import type { FrameFacts } from '../formats/frame-facts.ts';

/** A frame, or an exposure of the ledger, as far as identity asks. */
export interface Identifiable {
  readonly rigId: string;
  readonly startUtcMs: number;
  readonly exposureSec: number;
  /** Of the data unit as it lies in its file. */
  readonly dataSha256: string | null;
  /** Of the pixels, the same however losslessly the file is written. */
  readonly pixelsSha256: string | null;
  /** As exported by this application, or made by `headerKeyOf`. */
  readonly headerKey: string | null;
}

export interface KnownExposure extends Identifiable {
  /** null: an earlier frame of the same import. */
  readonly exposureId: string | null;
  readonly isWithdrawn: boolean;
}

export type Identity =
  | { readonly is: 'new'; readonly headerKey: string }
  | { readonly is: 'known'; readonly exposureId: string | null; readonly isWithdrawn: boolean }
  /** May be one that is known: a person looks. */
  | { readonly is: 'unclear'; readonly headerKey: string; readonly words: string };

/** One camera can't begin two exposures this near to each other, unless they are as short. */
export const SAME_START_MS = 1_000;
const SURELY_LONGER_SEC = 2;
const SAME_LENGTH_SHARE = 0.01;

/** What an exposure is known by: rig, start in whole milliseconds, length. */
export const exposureKey = (
  rigId: string,
  { startUtcMs, exposureSec }: { readonly startUtcMs: number; readonly exposureSec: number | null },
): string => `${rigId}|${Math.round(startUtcMs)}|${exposureSec}`;

/** Rig, start and length; where a start is given in whole seconds only, the sequence number or the file's name as well. */
export function headerKeyOf(rigId: string, facts: FrameFacts, fileName: string): string {
  const { startUtcMs, exposureSec } = facts;
  const key = exposureKey(rigId, { startUtcMs: startUtcMs ?? 0, exposureSec });
  if ((facts.startStepMs ?? 1000) < 1000) return key;
  return `${key}|${facts.sequence ?? fileName.replace(/^.*[/\\]/, '')}`;
}

/** Frames in their order, against what is known and against each other.
 *
 * An exported key, or the same camera, start and length, decide: the same frame re-encoded has them still. Two exposures
 * of one camera begin at least their own length apart; only those as short as the start's own uncertainty can be told
 * apart by nothing but their data. Equal data alone does not decide: a hash says no more than whoever gave it. */
export function identitiesOf(
  frames: readonly (Identifiable & { readonly frameId: string })[],
  known: readonly KnownExposure[],
): Map<string, Identity> {
  const pool = new Pool(known);
  const identities = new Map<string, Identity>();
  for (const { frameId, ...frame } of frames) {
    const identity = identityOf(frame, pool);
    identities.set(frameId, identity);
    if (identity.is === 'new')
      pool.add({ ...frame, headerKey: identity.headerKey, exposureId: null, isWithdrawn: false });
  }
  return identities;
}

/** What is known, found by its moment, its data and its key: thousands of frames are held against thousands. */
class Pool {
  readonly #byMoment = new Map<string, KnownExposure[]>();
  readonly #byData = new Map<string, KnownExposure>();
  readonly #byPixels = new Map<string, KnownExposure>();
  readonly #byKey = new Map<string, KnownExposure>();

  constructor(known: readonly KnownExposure[]) {
    for (const exposure of known) this.add(exposure);
  }

  add(exposure: KnownExposure): void {
    const key = momentKey(exposure.rigId, Math.floor(exposure.startUtcMs / SAME_START_MS));
    this.#byMoment.set(key, [...(this.#byMoment.get(key) ?? []), exposure]);
    for (const [index, name] of [
      [this.#byData, exposure.dataSha256],
      [this.#byPixels, exposure.pixelsSha256],
      [this.#byKey, exposure.headerKey],
    ] as const)
      if (name !== null && !index.has(name)) index.set(name, exposure);
  }

  sameMoment(frame: Identifiable): KnownExposure[] {
    const second = Math.floor(frame.startUtcMs / SAME_START_MS);
    return [second - 1, second, second + 1]
      .flatMap((near) => this.#byMoment.get(momentKey(frame.rigId, near)) ?? [])
      .filter((other) => isSameMoment(frame, other));
  }

  sameData = ({ dataSha256, pixelsSha256 }: Identifiable): KnownExposure | undefined =>
    this.#byData.get(dataSha256 ?? '') ?? this.#byPixels.get(pixelsSha256 ?? '');

  named = (headerKey: string): KnownExposure | undefined => (headerKey === '' ? undefined : this.#byKey.get(headerKey));
}

const momentKey = (rigId: string, second: number): string => `${rigId} ${second}`;

function identityOf(frame: Identifiable, pool: Pool): Identity {
  const headerKey = frame.headerKey ?? '';
  const sameMoment = pool.sameMoment(frame);
  const sameData = pool.sameData(frame);
  const named = pool.named(headerKey);
  const same =
    sameMoment.find((other) => likeness(frame, other) === 'same') ??
    sameMoment.find(() => frame.exposureSec > SURELY_LONGER_SEC) ??
    (named && ['same', 'open'].includes(likeness(frame, named)) ? named : undefined);
  if (same) return { is: 'known', exposureId: same.exposureId, isWithdrawn: same.isWithdrawn };
  const key = distinct(headerKey, frame, named !== undefined);
  const short = sameMoment.find((other) => likeness(frame, other) !== 'other');
  if (short)
    return {
      is: 'unclear',
      headerKey: key,
      words: `another exposure of ${frame.exposureSec} s begins within a second of it: is it the same?`,
    };
  if (sameData)
    return {
      is: 'unclear',
      headerKey: key,
      words: 'an exposure of another moment has the same data: is its start wrong?',
    };
  return { is: 'new', headerKey: key };
}

function isSameMoment(a: Identifiable, b: Identifiable): boolean {
  const longer = Math.max(a.exposureSec, b.exposureSec);
  return (
    a.rigId === b.rigId &&
    Math.abs(a.startUtcMs - b.startUtcMs) <= SAME_START_MS &&
    Math.abs(a.exposureSec - b.exposureSec) <= SAME_LENGTH_SHARE * longer
  );
}

/** What the data of two frames say of them. Other bytes may be the same frame written in another way; other pixels are not. */
function likeness(a: Identifiable, b: Identifiable): 'same' | 'other' | 'written otherwise' | 'open' {
  const pair = (key: 'dataSha256' | 'pixelsSha256'): boolean | null =>
    a[key] === null || b[key] === null ? null : a[key] === b[key];
  const [isSameData, arePixelsSame] = [pair('dataSha256'), pair('pixelsSha256')];
  if (isSameData || arePixelsSame) return 'same';
  if (arePixelsSame === false) return 'other';
  return isSameData === false ? 'written otherwise' : 'open';
}

/** A key that no other exposure has. */
const distinct = (headerKey: string, { dataSha256 }: Identifiable, isTaken: boolean): string =>
  isTaken && dataSha256 !== null ? `${headerKey}|${dataSha256.slice(0, 16)}` : headerKey;
