// The season before as the one to begin with: what still fits stays where it is, so that a small change moves little.
import type { SeasonPlan, SeasonRun } from './season-problem.ts';
import type { NamedSeason } from './season-of-nights.ts';
import type { Season } from './season-outlook.ts';

/** What of a season the next one begins with. */
export type SeasonBefore = Pick<Season, 'nights' | 'plan' | 'goalIds'>;

/** The runs of the season before in the lanes of another one, where night, rig and goal are still there.
 * @returns null where none is */
export function planBefore({ goalIds, lanes }: NamedSeason, before: SeasonBefore): SeasonPlan | null {
  const goals = new Map(goalIds.map((id, goal) => [id, goal]));
  const nights = new Map(before.nights.map(({ nightDate, rigId }, lane) => [keyOf(nightDate, rigId), lane]));
  const plan = lanes.map(({ nightDate, rigId, startUtcMs }): SeasonRun[] => {
    const lane = nights.get(keyOf(nightDate, rigId));
    const began = lane === undefined ? null : before.nights[lane].startUtcMs;
    if (lane === undefined || began === null || startUtcMs === null) return [];
    const shiftSec = (began - startUtcMs) / 1000;
    return before.plan[lane].flatMap(({ goal, count, startSec }) => {
      const now = goals.get(before.goalIds[goal]);
      return now === undefined ? [] : [{ goal: now, count, startSec: Math.max(0, startSec + shiftSec) }];
    });
  });
  return plan.some((runs) => runs.length > 0) ? plan : null;
}

/** The share of a season's exposures, by time, that stand in the same night on the same rig as before; of nights that both have.
 * @returns 1 where they have none */
export function keptShare(
  before: SeasonBefore,
  { nights, plan, goalIds }: SeasonBefore,
  exposureSec: ReadonlyMap<string, number>,
): number {
  // prettier-ignore
  const was = new Map(before.nights.map(({ nightDate, rigId }, lane) => [keyOf(nightDate, rigId), secOf(before.plan[lane], before.goalIds, exposureSec)])); // prettier-ignore
  let [kept, all] = [0, 0];
  nights.forEach(({ nightDate, rigId }, lane) => {
    const then = was.get(keyOf(nightDate, rigId));
    if (!then) return;
    for (const [goalId, sec] of secOf(plan[lane], goalIds, exposureSec)) {
      all += sec;
      kept += Math.min(sec, then.get(goalId) ?? 0);
    }
  });
  return all === 0 ? 1 : kept / all;
}

function secOf(
  runs: readonly SeasonRun[],
  goalIds: readonly string[],
  exposureSec: ReadonlyMap<string, number>,
): Map<string, number> {
  // prettier-ignore
  const sec = new Map<string, number>();
  for (const { goal, count } of runs) {
    const id = goalIds[goal];
    sec.set(id, (sec.get(id) ?? 0) + count * (exposureSec.get(id) ?? 0));
  }
  return sec;
}

const keyOf = (nightDate: string, rigId: string): string => `${nightDate} ${rigId}`;
