// The frames of the shelf that fit some lights: what comes with them when they are handed over.
import type { CalibrationNeed } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigSet } from './repository.ts';
import { calibrationFacts, needsOfRig } from './rig-needs.ts';

export interface HandedOver {
  readonly exposureId: string;
  readonly nightDate: string;
}

export interface FittingSet {
  readonly kind: CalibrationNeed['kind'];
  readonly exposureIds: readonly string[];
  readonly utcMs: number;
}

/** The best set there is for each need, also where it is small or old; none from across a change that made it useless. */
export async function fittingSets(
  queries: Queries,
  observatoryId: string,
  lights: readonly HandedOver[],
): Promise<FittingSet[]> {
  if (lights.length === 0) return [];
  const nights = lights.map(({ nightDate }) => nightDate).sort();
  const period = { from: nights[0], to: nights[nights.length - 1] };
  const own = new Set(lights.map(({ exposureId }) => exposureId));
  const facts = await calibrationFacts(queries, observatoryId, period);
  const handed = facts.lights.filter(({ exposureIds }) => exposureIds.some((id) => own.has(id)));
  const rigIds = [...new Set(handed.map(({ rigId }) => rigId))];
  return rigIds
    .flatMap((rigId) => needsOfRig({ ...facts, lights: handed }, rigId))
    .flatMap(({ kind, set, state }) =>
      set && state !== 'changed' ? [{ kind, exposureIds: (set as RigSet).exposureIds, utcMs: set.utcMs }] : [],
    );
}

/** Every frame of the sets that fit. */
export async function fittingCalibration(
  queries: Queries,
  observatoryId: string,
  lights: readonly HandedOver[],
): Promise<string[]> {
  const sets = await fittingSets(queries, observatoryId, lights);
  return [...new Set(sets.flatMap(({ exposureIds }) => exposureIds))];
}
