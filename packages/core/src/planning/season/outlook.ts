// How many nights work still needs: the nights ahead planned one after the other by the planner that plans tonight.
import type { ObservingNight } from '../../time/nights.ts';
import type { NightRequest } from '../night/night-request.ts';
import { planNight } from '../night/plan-night.ts';
import type { SolveOptions } from '../night/solve-night.ts';

export interface OutlookNight {
  readonly nightDate: string;
  readonly exposures: number;
  readonly exposingSec: number;
}

export interface Outlook {
  /** Nights in which something can be exposed, until the work is done or the nights end. */
  readonly nights: readonly OutlookNight[];
  /** The night in which the last exposure is taken; null where the nights given do not suffice. */
  readonly doneNightDate: string | null;
  /** Exposures that find no place in the nights given. */
  readonly leftExposures: number;
}

/** Plans night after night until nothing of a request's goals is left, as if each night were clear and the rig its own.
 * @param request its night is ignored; each goal's `toPlan` is what is left in the beginning
 * @param onProgress gets the share that is surely done, (0, 1] */
export function outlookOf(
  request: NightRequest,
  nights: readonly ObservingNight[],
  options: SolveOptions,
  onProgress: (share: number) => void = () => undefined,
): Outlook {
  const left = new Map(request.goals.map(({ id, toPlan }) => [id, toPlan]));
  const total = (): number => [...left.values()].reduce((sum, count) => sum + count, 0);
  const wanted = total();
  const used: OutlookNight[] = [];
  for (const [i, night] of nights.entries()) {
    if (total() === 0) break;
    // Either the nights run out or the work does: whichever is nearer its end.
    if (i > 0) onProgress(Math.max(i / nights.length, 1 - total() / wanted));
    const goals = request.goals.map((goal) => ({
      ...goal,
      toPlan: left.get(goal.id)!,
      done: goal.done + goal.toPlan - left.get(goal.id)!,
    }));
    const { plan } = planNight({ ...request, night, fromUtcMs: null, goals, endHazardPerHour: 0 }, options);
    const runs = plan.blocks.flatMap((block) => block.runs);
    if (runs.length === 0) continue;
    for (const { goalId, exposureStartsUtcMs } of runs)
      left.set(goalId, Math.max(0, left.get(goalId)! - exposureStartsUtcMs.length));
    used.push({
      nightDate: night.nightDate,
      exposures: runs.reduce((sum, run) => sum + run.exposureStartsUtcMs.length, 0),
      exposingSec: runs.reduce((sum, run) => sum + run.exposureStartsUtcMs.length * run.exposureSec, 0),
    });
  }
  const leftExposures = total();
  return { nights: used, doneNightDate: leftExposures === 0 ? (used.at(-1)?.nightDate ?? null) : null, leftExposures };
}
