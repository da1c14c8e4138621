// Nights that may end at any time: the setting, and what a plan holds hour by hour.
import type { BodyOf, EarlyEnds, editEarlyEnds } from '@meridiem/contract';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { takeBackSetting } from '../changes/index.ts';
import { nightNamed } from '../nights/index.ts';
import { EARLY_ENDS, earlyEndChanceOf, storeEarlyEndChance } from './early-end-chance.ts';
import type { GoalRow } from './goals-repository.ts';
import { rigNamed } from './rig-planner.ts';
import type { PlanningUse } from './service.ts';

export function createEarlyEnds({ database, observatory: observatories, changes, planner }: PlanningUse) {
  changes.register(EARLY_ENDS, { by: 'coordinator', takeBack: (queries, _viewer, change) => takeBackSetting(queries, change) }); // prettier-ignore
  return {
    async earlyEnds(viewer: Viewer, rigId: string, nightDate: string): Promise<EarlyEnds> {
      const observatory = await observatories.read(viewer.observatoryId);
      const surveyed = await planner.survey(
        observatory,
        rigNamed(observatory, rigId),
        nightNamed(observatory, nightDate),
      );
      const [chancePercent, ends] = await Promise.all([
        earlyEndChanceOf(database, viewer.observatoryId),
        planner.earlyEnds(surveyed),
      ]);
      const cuts =
        ends?.cuts.map(({ exposures, ...cut }) => ({ ...cut, exposures: byFilter(exposures, surveyed.rows) })) ?? [];
      return { chancePercent, cuts, price: ends?.price ?? null };
    },

    editEarlyEnds: (viewer: Viewer, { chancePercent }: BodyOf<typeof editEarlyEnds>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const { observatoryId } = viewer;
        const before = { chancePercent: await earlyEndChanceOf(queries, observatoryId) };
        await storeEarlyEndChance(queries, observatoryId, { chancePercent });
        await changes.record(queries, viewer, {
          entity: EARLY_ENDS,
          entityId: observatoryId,
          projectId: null,
          words: `nights that end early: ${chancePercent} % an hour`,
          before,
          after: { chancePercent },
        });
        await announce(queries, observatoryId, 'plan');
        return { ok: true };
      }),
  };
}

/** In the order of the rig's goals. */
function byFilter(
  exposures: readonly { readonly goalId: string; readonly count: number }[],
  rows: readonly GoalRow[],
): { filterLetter: string; count: number }[] {
  const counts = new Map(exposures.map(({ goalId, count }) => [goalId, count]));
  const letters = new Map<string, number>();
  for (const { goalId, filterLetter } of rows) {
    const count = counts.get(goalId) ?? 0;
    if (count > 0) letters.set(filterLetter, (letters.get(filterLetter) ?? 0) + count);
  }
  return [...letters].map(([filterLetter, count]) => ({ filterLetter, count }));
}
