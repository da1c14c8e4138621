// Lights, shelf and what has made older sets useless, of all rigs in a period: each rig's needs follow from its own.
import type { CalibrationNeed } from '@meridiem/core';
import { CALIBRATION_RULES, calibrationNeeds } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Nights, RigEvent, RigLight, RigSet } from './repository.ts';
import { cleaningsOf, lightsOf, shelfOf } from './repository.ts';

export interface CalibrationFacts {
  readonly lights: readonly RigLight[];
  readonly shelf: readonly RigSet[];
  readonly events: readonly RigEvent[];
}

export async function calibrationFacts(
  queries: Queries,
  observatoryId: string,
  nights: Nights,
): Promise<CalibrationFacts> {
  const [lights, shelf, events] = await Promise.all([
    lightsOf(queries, observatoryId, nights),
    shelfOf(queries, observatoryId, nights),
    cleaningsOf(queries, observatoryId),
  ]);
  return { lights, shelf, events };
}

export function needsOfRig({ lights, shelf, events }: CalibrationFacts, rig: string): CalibrationNeed[] {
  const own = <T extends { readonly rigId: string }>(rows: readonly T[]): T[] =>
    rows.filter(({ rigId }) => rigId === rig);
  return calibrationNeeds(own(lights), own(shelf), CALIBRATION_RULES, own(events));
}
