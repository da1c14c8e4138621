// What calibration lights still need: which set on the shelf fits, and what is owed, with why.
import type { SensorSides } from '../exposure/sampling.ts';
import type { NightRules } from '../night/night-rules.ts';
import { nightRulesWith } from '../night/night-rules.ts';
import { wrap180 } from '../units.ts';
import type { UtcMs } from '../units.ts';

export const CALIBRATION_KINDS = ['flat', 'flat-dark', 'dark', 'bias'] as const;
export type CalibrationKind = (typeof CALIBRATION_KINDS)[number];

/** How a camera read its frame; null where nobody wrote it down, which fits nothing but the same. */
export interface ReadSettings {
  readonly gain: number | null;
  readonly offset: number | null;
  readonly binning: number;
  /** The middle of the sensor that was read, in unbinned pixels; null: all of it. */
  readonly region: SensorSides | null;
}

/** What a flat must share with its lights beside the reading. */
interface LightPath {
  readonly filterId: string | null;
  /** The rig as it was put together: another revision is another light path. */
  readonly opticsId: string;
  /** Of the camera on the telescope, degrees modulo 360: a meridian flip keeps it, a half turn of a rotator does not. */
  readonly mechanicalAngleDeg: number | null;
}

export interface CalibratedLight extends ReadSettings, LightPath {
  /** Of the newest, where several alike are told of at once. */
  readonly utcMs: UtcMs;
  /** How many alike; 1 where left out. */
  readonly count?: number;
  readonly exposureSec: number;
  readonly sensorC: number | null;
}

/** Frames of one kind taken together. */
export interface CalibrationSet extends ReadSettings, LightPath {
  readonly id: string;
  readonly kind: 'flat' | 'dark' | 'bias';
  readonly utcMs: UtcMs;
  readonly exposureSec: number;
  readonly sensorC: number | null;
  readonly count: number;
}

/** Something that makes older sets useless for newer lights: a sensor cleaned, a camera opened. */
export interface CalibrationEvent {
  readonly utcMs: UtcMs;
  readonly kinds: readonly CalibrationSet['kind'][];
  readonly words: string;
}

export interface CalibrationRules {
  readonly angleToleranceDeg: number;
  readonly temperatureToleranceC: number;
  readonly fewest: Readonly<Record<CalibrationSet['kind'], number>>;
  /** A set older or younger than its lights by more than this is too far away. */
  readonly keepsDays: Readonly<Record<CalibrationSet['kind'], number>>;
}

/** As a rig's own numbers have it. */
export const calibrationRulesOf = (rules: NightRules): CalibrationRules => ({
  angleToleranceDeg: rules.flatsAngleWithinDeg,
  temperatureToleranceC: rules.darksWithinC,
  fewest: { flat: rules.flatsFewest, dark: rules.darksFewest, bias: rules.biasFewest },
  keepsDays: { flat: rules.flatsKeepDays, dark: rules.darksKeepDays, bias: rules.darksKeepDays },
});
export const CALIBRATION_RULES = calibrationRulesOf(nightRulesWith({}));

export interface CalibrationNeed {
  readonly kind: CalibrationKind;
  /** As the first of its lights has it; of a flat-dark, as its flats have it. */
  readonly like: CalibratedLight | CalibrationSet;
  /** Lights that need it. */
  readonly lights: number;
  readonly newestUtcMs: UtcMs;
  readonly state: 'matched' | 'few' | 'aged' | 'changed' | 'owed';
  /** The set that fits best, also where it does not fit well enough. */
  readonly set: CalibrationSet | null;
  /** Why it is not matched, in words; empty where it is. */
  readonly words: string;
}

const DAY_MS = 86_400_000;
/** Lengths are written as the camera rounds them. */
const SAME_LENGTH_SHARE = 0.005;

const sameReading = (a: ReadSettings, b: ReadSettings): boolean =>
  a.gain === b.gain && a.offset === b.offset && a.binning === b.binning && sameRegion(a.region, b.region);

const sameRegion = (a: SensorSides | null, b: SensorSides | null): boolean =>
  a?.widthPx === b?.widthPx && a?.heightPx === b?.heightPx;

const sameLength = (aSec: number, bSec: number): boolean =>
  Math.abs(aSec - bSec) <= SAME_LENGTH_SHARE * Math.max(aSec, bSec);

const within = (a: number | null, b: number | null, tolerance: number): boolean =>
  a === null || b === null ? a === b : Math.abs(a - b) <= tolerance;

const sameAngle = (a: number | null, b: number | null, toleranceDeg: number): boolean =>
  a === null || b === null ? a === b : Math.abs(wrap180(a - b)) <= toleranceDeg;

type Frame = CalibratedLight | CalibrationSet;
/** Whether a set of a kind serves a frame, or two frames the same set. */
type Fits = (a: Frame, b: Frame, rules: CalibrationRules) => boolean;

const asFlat: Fits = (a, b, { angleToleranceDeg }) =>
  sameReading(a, b) &&
  a.filterId === b.filterId &&
  a.opticsId === b.opticsId &&
  sameAngle(a.mechanicalAngleDeg, b.mechanicalAngleDeg, angleToleranceDeg);

const asDark: Fits = (a, b, { temperatureToleranceC }) =>
  sameReading(a, b) && sameLength(a.exposureSec, b.exposureSec) && within(a.sensorC, b.sensorC, temperatureToleranceC);

const asBias: Fits = sameReading;

/** What lights need of each kind, what there is for it, and what is owed.
 * @param lights in any order @param shelf sets of the same camera */
export function calibrationNeeds(
  lights: readonly CalibratedLight[],
  shelf: readonly CalibrationSet[],
  rules: CalibrationRules = CALIBRATION_RULES,
  events: readonly CalibrationEvent[] = [],
): CalibrationNeed[] {
  const needs = (kind: CalibrationKind, of: CalibrationSet['kind'], frames: readonly Frame[], fits: Fits) =>
    grouped(frames, (a, b) => fits(a, b, rules)).map((group) =>
      needOf(
        { kind, of, group, candidates: shelf.filter((set) => set.kind === of && fits(group[0], set, rules)) },
        rules,
        events,
      ),
    );
  const flats = needs('flat', 'flat', lights, asFlat);
  const used = flats.flatMap(({ set, state, lights: count }) => (set && state !== 'changed' ? [{ set, count }] : []));
  return [
    ...flats,
    ...needs(
      'flat-dark',
      'dark',
      used.map(({ set }) => set),
      asDark,
    ),
    ...needs('dark', 'dark', lights, asDark),
    ...needs('bias', 'bias', lights, asBias),
  ];
}

/** Frames that one set can serve, each with the first of its group in reach. */
function grouped(frames: readonly Frame[], isLike: (a: Frame, b: Frame) => boolean): Frame[][] {
  const groups: Frame[][] = [];
  for (const frame of frames.toSorted((a, b) => a.utcMs - b.utcMs)) {
    const group = groups.find(([first]) => isLike(first, frame));
    if (group) group.push(frame);
    else groups.push([frame]);
  }
  return groups;
}

interface Wanted {
  readonly kind: CalibrationKind;
  readonly of: CalibrationSet['kind'];
  readonly group: readonly Frame[];
  readonly candidates: readonly CalibrationSet[];
}

const STATES = ['matched', 'few', 'aged', 'changed'] as const;

/** The best of the candidates: whole before few, near before far, and none across an event. */
function needOf(
  { kind, of, group, candidates }: Wanted,
  rules: CalibrationRules,
  events: readonly CalibrationEvent[],
): CalibrationNeed {
  const newestUtcMs = group.at(-1)!.utcMs;
  const judged = candidates
    .map((set) => ({ set, ...judgement({ set, of, newestUtcMs }, rules, events) }))
    .toSorted(
      (a, b) =>
        STATES.indexOf(a.state) - STATES.indexOf(b.state) ||
        Math.abs(a.set.utcMs - newestUtcMs) - Math.abs(b.set.utcMs - newestUtcMs),
    );
  const best = judged[0] ?? { set: null, state: 'owed' as const, words: 'none has been taken' };
  // Flats are counted as one each where they need darks themselves.
  const lights = group.reduce((sum, frame) => sum + ('kind' in frame ? 1 : (frame.count ?? 1)), 0);
  return { kind, like: group[0], lights, newestUtcMs, ...best };
}

function judgement(
  { set, of, newestUtcMs }: { set: CalibrationSet; of: CalibrationSet['kind']; newestUtcMs: UtcMs },
  rules: CalibrationRules,
  events: readonly CalibrationEvent[],
): Pick<CalibrationNeed, 'words'> & { state: (typeof STATES)[number] } {
  const [fromUtcMs, toUtcMs] = [Math.min(set.utcMs, newestUtcMs), Math.max(set.utcMs, newestUtcMs)];
  const event = events.find(({ utcMs, kinds }) => kinds.includes(of) && utcMs > fromUtcMs && utcMs <= toUtcMs);
  if (event) return { state: 'changed', words: event.words };
  const days = Math.floor((toUtcMs - fromUtcMs) / DAY_MS);
  if (days > rules.keepsDays[of])
    return { state: 'aged', words: `${days} days away, ${rules.keepsDays[of]} are allowed` };
  const fewest = rules.fewest[of];
  return set.count < fewest
    ? { state: 'few', words: `${set.count} of at least ${fewest}` }
    : { state: 'matched', words: '' };
}
