// What of the calibration owed a rig can take by itself with the roof closed: flats by its own light, darks, darks for flats, bias.
import type { SensorSides } from '../exposure/sampling.ts';
import type { CalibrationNeed, CalibrationRules, CalibrationSet } from './owed.ts';
import { CALIBRATION_RULES } from './owed.ts';

export interface SetToTake {
  readonly kind: CalibrationSet['kind'];
  /** Of flats. */
  readonly filterId: string | null;
  /** 0 for bias: as short as the camera can; of flats what served last, where any has. */
  readonly exposureSec: number;
  readonly gain: number;
  readonly offset: number;
  readonly binning: number;
  /** The middle of the sensor that is read; null for all of it. */
  readonly region: SensorSides | null;
  /** Null where any temperature serves. */
  readonly sensorC: number | null;
  /** Of flats: the camera's angle as their lights have it, for a rig whose motor turns it there; null where nobody knows it, and of others. */
  readonly mechanicalAngleDeg: number | null;
  readonly count: number;
}

/** Where no flat of a filter has ever been taken its exposure is looked for from here. */
const FIRST_FLAT_SEC = 1;
const KINDS = ['flat', 'bias', 'dark'] as const;

/** Sets that are missing or too small: flats first, for darks may be theirs; then the quickest. What nobody wrote a gain or offset down
 * for can't be taken. */
export function setsToTake(
  needs: readonly CalibrationNeed[],
  { fewest }: CalibrationRules = CALIBRATION_RULES,
): SetToTake[] {
  const sets = new Map<string, SetToTake>();
  for (const need of needs) {
    const own = need.state === 'matched' ? null : setFor(need, fewest);
    if (!own) continue;
    const { count: _count, ...alike } = own;
    sets.set(JSON.stringify(alike), own);
  }
  const lengthSec = ({ exposureSec, count }: SetToTake): number => exposureSec * count;
  return [...sets.values()].sort(
    (a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind) || lengthSec(a) - lengthSec(b),
  );
}

function setFor(
  { kind: needed, like, state, set }: CalibrationNeed,
  fewest: CalibrationRules['fewest'],
): SetToTake | null {
  const { gain, offset, binning, region, filterId, sensorC, mechanicalAngleDeg } = like;
  if (gain === null || offset === null) return null;
  const kind = needed === 'flat-dark' ? 'dark' : needed;
  if ((kind === 'dark' && sensorC === null) || (kind === 'flat' && filterId === null)) return null;
  return {
    kind,
    filterId: kind === 'flat' ? filterId : null,
    exposureSec: kind === 'bias' ? 0 : kind === 'flat' ? (set?.exposureSec ?? FIRST_FLAT_SEC) : like.exposureSec,
    ...{ gain, offset, binning, region },
    sensorC: kind === 'dark' ? sensorC : null,
    mechanicalAngleDeg: kind === 'flat' ? mechanicalAngleDeg : null,
    count: state === 'few' && set ? fewest[kind] - set.count : fewest[kind],
  };
}
