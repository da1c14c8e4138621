// Where a rig's night went: what was recorded and remarked becomes one entry after another, without gap or overlap.
import type { Interval } from '../time/nights.ts';

/** Kinds of time, each minute of a night belonging to one. */
export const TIME_KINDS = [
  'exposing',
  'overhead',
  'waiting',
  'weather',
  'fault',
  'calibration',
  'idle',
  'visit',
] as const;
export type TimeKind = (typeof TIME_KINDS)[number];

/** What kind of sky an hour is charged as: moonless, moonlit, or the sun up. */
export type SkyClass = 'dark' | 'bright' | 'day';

/** Whose time an entry is. */
export interface TimeOwner {
  readonly projectId: string;
  readonly memberId: string;
}

export interface AccountedExposure extends Interval {
  readonly id: string;
  readonly kind: 'light' | 'calibration';
  /** Exposures of one panel that follow each other closely are one stay. Null where it belongs to no project. */
  readonly panelId: string | null;
  readonly owner: TimeOwner | null;
}

/** A frame that was begun and never delivered. */
export interface LostFrame extends Interval {
  readonly panelId: string;
  readonly owner: TimeOwner;
}

/** What somebody says of a stretch of a night; it stands above everything recorded. */
export interface TimeRemark extends Interval {
  readonly id: string;
  readonly kind: TimeKind;
}

export interface NightFacts {
  readonly night: Interval;
  readonly exposures: readonly AccountedExposure[];
  readonly lostFrames: readonly LostFrame[];
  readonly remarks: readonly TimeRemark[];
  /** Stretches with the sun up, and with the moon up. */
  readonly sunUp: readonly Interval[];
  readonly moonUp: readonly Interval[];
  /** Slew, settling and centring before the first exposure of a stay, and the last download after it, seconds. */
  readonly arrivalSec: number;
  readonly downloadSec: number;
}

export interface TimeEntry extends Interval {
  readonly kind: TimeKind;
  readonly skyClass: SkyClass;
  readonly owner: TimeOwner | null;
  readonly exposureId: string | null;
  readonly remarkId: string | null;
}

/** Longer than this between two exposures of a panel, and the rig was not busy with it: two stays. */
export const LONGEST_BREAK_SEC = 15 * 60;

type Claim = Interval & Omit<TimeEntry, 'skyClass' | keyof Interval>;

/** The account of one night of one rig.
 * A remark wins over what was recorded; an exposure over a lost frame; both over the overhead of their stay;
 * between the first and the last stay the rig waited; before and after it was idle.
 * @returns entries in order; the first starts and the last ends with the night, each starts where the one before ends */
export function nightAccount(facts: NightFacts): TimeEntry[] {
  const stays = staysOf(facts);
  const layers: readonly (readonly Claim[])[] = [
    facts.remarks.map(({ id, kind, startUtcMs, endUtcMs }) => ({
      ...claim(kind, null),
      remarkId: id,
      startUtcMs,
      endUtcMs,
    })),
    facts.exposures.map(({ id, kind, owner, startUtcMs, endUtcMs }) => ({
      ...claim(kind === 'light' ? 'exposing' : 'calibration', owner),
      exposureId: id,
      startUtcMs,
      endUtcMs,
    })),
    facts.lostFrames.map(({ owner, startUtcMs, endUtcMs }) => ({ ...claim('fault', owner), startUtcMs, endUtcMs })),
    stays.map(({ owner, startUtcMs, endUtcMs }) => ({ ...claim('overhead', owner), startUtcMs, endUtcMs })),
    waitsBetween(stays),
    [{ ...claim('idle', null), ...facts.night }],
  ].map((layer) => layer.toSorted(byStart));
  const cuts = cutsOf(facts.night, [...layers.flat(), ...facts.sunUp, ...facts.moonUp]);
  const cursors = layers.map((layer) => cursorOver(layer));
  const [sun, moon] = [cursorOver(facts.sunUp.toSorted(byStart)), cursorOver(facts.moonUp.toSorted(byStart))];
  const entries: TimeEntry[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const startUtcMs = cuts[i];
    const covering = cursors.map((cursor) => cursor(startUtcMs)).find((found) => found !== null)!;
    const skyClass: SkyClass = sun(startUtcMs) ? 'day' : moon(startUtcMs) ? 'bright' : 'dark';
    const { kind, owner, exposureId, remarkId } = covering;
    const entry = { kind, owner, exposureId, remarkId, skyClass, startUtcMs, endUtcMs: cuts[i + 1] };
    const last = entries.at(-1);
    if (last && isSame(last, entry)) entries[entries.length - 1] = { ...last, endUtcMs: entry.endUtcMs };
    else entries.push(entry);
  }
  return entries;
}

/** What the charging rule makes of hours: the share of a clock hour that is charged, by sky class. */
export type ChargeWeights = Readonly<Record<SkyClass, number>>;

/** Dark hours count whole, moonlit and daylit ones half, until an observatory says otherwise. */
export const DEFAULT_CHARGE_WEIGHTS: ChargeWeights = { dark: 1, bright: 0.5, day: 0.5 };

/** Reasons of a rejection that are the site's and not the member's: such an exposure is not charged. */
export const SITE_REASONS = ['cloud', 'wind', 'fault'] as const;

/** Charged hours of entries: exposing and overhead that somebody owns, weighted by sky class.
 * @param isLostToSite whether an exposure was rejected for a reason of the site */
export const chargedHours = (
  entries: readonly TimeEntry[],
  weights: ChargeWeights,
  isLostToSite: (exposureId: string) => boolean,
): number =>
  entries
    .filter(({ kind, owner }) => owner !== null && (kind === 'exposing' || kind === 'overhead'))
    .filter(({ exposureId }) => exposureId === null || !isLostToSite(exposureId))
    .reduce(
      (sum, { startUtcMs, endUtcMs, skyClass }) => sum + ((endUtcMs - startUtcMs) / 3_600_000) * weights[skyClass],
      0,
    );

const claim = (kind: TimeKind, owner: TimeOwner | null) => ({ kind, owner, exposureId: null, remarkId: null });

const byStart = (a: Interval, b: Interval): number => a.startUtcMs - b.startUtcMs || a.endUtcMs - b.endUtcMs;

const isSame = (a: TimeEntry, b: TimeEntry): boolean =>
  a.kind === b.kind &&
  a.skyClass === b.skyClass &&
  a.owner?.projectId === b.owner?.projectId &&
  a.exposureId === b.exposureId &&
  a.remarkId === b.remarkId;

interface Stay extends Interval {
  readonly panelId: string | null;
  readonly owner: TimeOwner | null;
}

/** Exposures and lost frames of one panel in a row, from the start of the slew to the last download; a stay gives way to the one before. */
function staysOf({ exposures, lostFrames, night, arrivalSec, downloadSec }: NightFacts): Stay[] {
  const frames = [...exposures.filter(({ kind }) => kind === 'light'), ...lostFrames].toSorted(byStart);
  const stays: Stay[] = [];
  for (const { panelId, owner, startUtcMs, endUtcMs } of frames) {
    const last = stays.at(-1);
    const downloadedUtcMs = Math.min(night.endUtcMs, endUtcMs + downloadSec * 1000);
    if (last && last.panelId === panelId && startUtcMs - last.endUtcMs <= LONGEST_BREAK_SEC * 1000)
      stays[stays.length - 1] = { ...last, endUtcMs: Math.max(last.endUtcMs, downloadedUtcMs) };
    else {
      const slewUtcMs = Math.max(night.startUtcMs, startUtcMs - arrivalSec * 1000, last?.endUtcMs ?? night.startUtcMs);
      stays.push({ panelId, owner, startUtcMs: Math.min(slewUtcMs, startUtcMs), endUtcMs: downloadedUtcMs });
    }
  }
  return stays;
}

const waitsBetween = (stays: readonly Stay[]): Claim[] =>
  stays.slice(1).flatMap(({ startUtcMs }, i) => {
    const from = stays[i].endUtcMs;
    return startUtcMs > from ? [{ ...claim('waiting', null), startUtcMs: from, endUtcMs: startUtcMs }] : [];
  });

/** Every moment of a night at which something may change, in order, both ends included. */
function cutsOf({ startUtcMs, endUtcMs }: Interval, stretches: readonly Interval[]): number[] {
  const inside = stretches
    .flatMap((stretch) => [stretch.startUtcMs, stretch.endUtcMs])
    .filter((utcMs) => utcMs > startUtcMs && utcMs < endUtcMs);
  return [...new Set([startUtcMs, ...inside, endUtcMs])].toSorted((a, b) => a - b);
}

/** Asks sorted stretches for the first that covers a moment; moments must not go back. */
function cursorOver<T extends Interval>(sorted: readonly T[]): (utcMs: number) => T | null {
  let first = 0;
  return (utcMs) => {
    while (first < sorted.length && sorted[first].endUtcMs <= utcMs) first += 1;
    for (let i = first; i < sorted.length && sorted[i].startUtcMs <= utcMs; i++) {
      if (sorted[i].endUtcMs > utcMs) return sorted[i];
    }
    return null;
  };
}
