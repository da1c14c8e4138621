// The sky over exposures of the ledger, from where they point, when they began and what they were taken with.
import type { ExposureConditions, SkyPosition } from '@meridiem/core';
import { exposureConditions } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { placeOf } from '../../moving-target.ts';
import type { TakenRow } from './repository.ts';
import { plannedExposures, takenExposures } from './repository.ts';

/** @param elsewhere places of exposures that no panel claims
 * @returns by exposure id; exposures without a place, or below the horizon, are left out */
export async function skiesOf(
  queries: Queries,
  exposureIds: readonly string[],
  elsewhere: ReadonlyMap<string, SkyPosition> = new Map(),
): Promise<Map<string, ExposureConditions>> {
  return conditionsById(await takenExposures(queries, exposureIds), elsewhere);
}

/** The sky that the open steps of a run are planned under, by step id. */
export async function plannedSkiesOf(queries: Queries, runId: string): Promise<Map<string, ExposureConditions>> {
  return conditionsById(await plannedExposures(queries, runId));
}

const conditionsById = (
  rows: readonly TakenRow[],
  elsewhere: ReadonlyMap<string, SkyPosition> = new Map(),
): Map<string, ExposureConditions> =>
  new Map(
    rows.flatMap(({ id, raDeg, decDeg, orbit, ...taken }) => {
      const middleUtcMs = taken.startUtcMs + 500 * taken.exposureSec;
      const target = placeOf({ raDeg, decDeg, orbit }, taken.site, middleUtcMs) ?? elsewhere.get(id);
      const conditions = target && exposureConditions({ ...taken, target });
      return conditions ? [[id, conditions] as const] : [];
    }),
  );
