// The frames of the shelf that fit some lights: what comes with them when they are handed over.
import type { CalibrationNeed } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigSet } from './repository.ts';
import { calibrationFacts, needsOfRig } from './rig-needs.ts';

interface HandedOver {
  readonly exposureId: string;
  readonly nightDate: string;
}

/** The best set there is for each need, also where it is small or old; none from across a change that made it useless. */
export async function fittingCalibration(
  queries: Queries,
  observatoryId: string,
  lights: readonly HandedOver[],
): Promise<string[]> {
  if (lights.length === 0) return [];
  const nights = lights.map(({ nightDate }) => nightDate).sort();
  const period = { from: nights[0], to: nights[nights.length - 1] };
  const own = new Set(lights.map(({ exposureId }) => exposureId));
  const facts = await calibrationFacts(queries, observatoryId, period);
  const handed = facts.lights.filter(({ exposureIds }) => exposureIds.some((id) => own.has(id)));
  const fits = ({ set, state }: CalibrationNeed): readonly string[] =>
    set && state !== 'changed' ? (set as RigSet).exposureIds : [];
  const ids = [...new Set(handed.map(({ rigId }) => rigId))].flatMap((rigId) =>
    needsOfRig({ ...facts, lights: handed }, rigId).flatMap(fits),
  );
  return [...new Set(ids)];
}
