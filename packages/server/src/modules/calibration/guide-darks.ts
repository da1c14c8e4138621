// Darks of a guide camera: the guider keeps them by itself, so all that is known is when it took some last.
import { nightRulesWith } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { thisMoment } from '../../database/validity.ts';
import { ownRules } from '../devices/index.ts';
import { lastGuideDarks } from './repository.ts';

const DAY_MS = 86_400_000;

/** How a rig stands with the darks of its guide camera. */
export interface GuideDarks {
  /** null: none have been taken. */
  readonly takenUtcMs: number | null;
  readonly isDue: boolean;
}

/** By rig; of those only that let their guider take darks. */
export async function guideDarksOf(queries: Queries, observatoryId: string): Promise<Map<string, GuideDarks>> {
  const [rigs, taken] = await Promise.all([
    queries.models.Rig.findAll({ where: { observatoryId } }),
    lastGuideDarks(queries, observatoryId),
  ]);
  const lastOf = new Map(taken.map(({ rigId, utcMs }) => [rigId, utcMs]));
  return new Map(
    rigs.flatMap(({ id, nightRules }) => {
      const { guideDarksKeepDays } = nightRulesWith(ownRules(nightRules));
      const takenUtcMs = lastOf.get(id) ?? null;
      const isDue = takenUtcMs === null || takenUtcMs < thisMoment().getTime() - DAY_MS * guideDarksKeepDays;
      return guideDarksKeepDays === 0 ? [] : [[id, { takenUtcMs, isDue }] as const];
    }),
  );
}

export async function areGuideDarksDue(queries: Queries, observatoryId: string, rigId: string): Promise<boolean> {
  return (await guideDarksOf(queries, observatoryId)).get(rigId)?.isDue ?? false;
}
