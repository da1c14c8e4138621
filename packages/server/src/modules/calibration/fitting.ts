// The frames of the shelf that fit some lights: what comes with them when they are handed over.
import type { CalibrationNeed } from '@meridiem/core';
import { calibrationNeeds } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigSet } from './repository.ts';
import { lightsOf, shelfOf } from './repository.ts';

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
  const [all, shelf] = await Promise.all([
    lightsOf(queries, observatoryId, period),
    shelfOf(queries, observatoryId, period),
  ]);
  const groups = all.filter(({ exposureIds }) => exposureIds.some((id) => own.has(id)));
  const rigs = [...new Set(groups.map(({ rigId }) => rigId))];
  const fits = ({ set, state }: CalibrationNeed): readonly string[] =>
    set && state !== 'changed' ? (set as RigSet).exposureIds : [];
  const ids = rigs.flatMap((rigId) => {
    const ofRig = <T extends { readonly rigId: string }>(rows: readonly T[]): T[] =>
      rows.filter((row) => row.rigId === rigId);
    return calibrationNeeds(ofRig(groups), ofRig(shelf)).flatMap(fits);
  });
  return [...new Set(ids)];
}
