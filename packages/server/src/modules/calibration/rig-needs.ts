// Lights, shelf and what has made older sets useless, of all rigs in a period: each rig's needs follow from its own.
import type { CalibrationNeed, CalibrationRules } from '@meridiem/core';
import { CALIBRATION_RULES, calibrationNeeds, calibrationRulesOf, nightRulesWith } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { ownRules } from '../devices/index.ts';
import type { Nights, RigEvent, RigLight, RigSet } from './repository.ts';
import { cleaningsOf, lightsOf, shelfOf } from './repository.ts';

export interface CalibrationFacts {
  readonly lights: readonly RigLight[];
  readonly shelf: readonly RigSet[];
  readonly events: readonly RigEvent[];
  /** By rig. */
  readonly rules: ReadonlyMap<string, CalibrationRules>;
}

export async function calibrationFacts(
  queries: Queries,
  observatoryId: string,
  nights: Nights,
): Promise<CalibrationFacts> {
  const [lights, shelf, events, rigs] = await Promise.all([
    lightsOf(queries, observatoryId, nights),
    shelfOf(queries, observatoryId, nights),
    cleaningsOf(queries, observatoryId),
    queries.models.Rig.findAll({ where: { observatoryId } }),
  ]);
  const rules = new Map(
    rigs.map(({ id, nightRules }) => [id, calibrationRulesOf(nightRulesWith(ownRules(nightRules)))]),
  );
  return { lights, shelf, events, rules };
}

export const rulesOfRig = ({ rules }: Pick<CalibrationFacts, 'rules'>, rig: string): CalibrationRules =>
  rules.get(rig) ?? CALIBRATION_RULES;

export function needsOfRig({ lights, shelf, events, rules }: CalibrationFacts, rig: string): CalibrationNeed[] {
  const own = <T extends { readonly rigId: string }>(rows: readonly T[]): T[] =>
    rows.filter(({ rigId }) => rigId === rig);
  return calibrationNeeds(own(lights), own(shelf), rulesOfRig({ rules }, rig), own(events));
}
