// A rig's night that may end at any time, in the observatory's words: what its plan holds hour by hour, and what a safe order costs.
import { HOUR_MS } from '../../units.ts';
import type { UtcMs } from '../../units.ts';
import { nightProblem } from '../night/night-problem.ts';
import type { NightPlan, NightRequest } from '../night/night-request.ts';
import { DEFAULT_SOLVE_OPTIONS } from '../night/solve-night.ts';
import { surveyNight } from '../night/survey.ts';
import type { NightProblem, Placement } from '../problem.ts';
import type { SafetyPrice } from './cuts.ts';
import { cutsOf, safetyPrice } from './cuts.ts';

export interface HeldByThen {
  readonly utcMs: UtcMs;
  /** Goals with exposures whole by then. */
  readonly exposures: readonly { readonly goalId: string; readonly count: number }[];
  /** Of the best that was possible until then, [0, 1]. */
  readonly heldShare: number;
}

export interface EarlyEnds {
  readonly cuts: readonly HeldByThen[];
  /** Against the order that is best in a night that lasts; null where plans allow for no early end. */
  readonly price: {
    /** Of that order's value, what the safe one has less of when the night lasts, [0, 1]. */
    readonly lostShare: number;
    /** Of what that order is expected to hold, what the safe one is expected to hold more, ≥ 0. */
    readonly gainShare: number;
  } | null;
}

/** The hazard of an exponential law from the chance that a night under way ends within an hour, [0, 1). */
export const hazardOf = (chancePerHour: number): number => -Math.log1p(-chancePerHour);

/** @param plan of this request, its first exposure to its last
 * @returns null where the night has no time to plan, or the plan no exposure */
export function earlyEnds(
  request: NightRequest,
  { blocks }: Pick<NightPlan, 'blocks'>,
  options = DEFAULT_SOLVE_OPTIONS,
): EarlyEnds | null {
  const survey = surveyNight(request);
  if (!survey || blocks.length === 0) return null;
  const problem = nightProblem(request, survey);
  const originUtcMs = survey.table.startUtcMs;
  const placements = placementsOf(problem, blocks, originUtcMs);
  const endsSec = hoursWithin(blocks, originUtcMs);
  const price = problem.endHazardPerHour ? safetyPrice(problem, options) : null;
  const others = price ? [price.safe, price.uncut] : [];
  const cuts = cutsOf(problem, { placements }, endsSec, { options, others }).map(
    ({ endSec, counts, worth, bestWorth }): HeldByThen => ({
      utcMs: originUtcMs + 1000 * endSec,
      exposures: counts.flatMap((count, g) => (count > 0 ? [{ goalId: problem.goals[g].id, count }] : [])),
      heldShare: bestWorth > 0 ? worth / bestWorth : 1,
    }),
  );
  return { cuts, price: price && sharesOf(price) };
}

const sharesOf = ({ safe, uncut, safeExpected, uncutExpected }: SafetyPrice): NonNullable<EarlyEnds['price']> => ({
  lostShare: uncut.value > 0 ? Math.max(0, 1 - safe.value / uncut.value) : 0,
  gainShare: uncutExpected > 0 ? Math.max(0, safeExpected / uncutExpected - 1) : 0,
});

function placementsOf(problem: NightProblem, blocks: NightPlan['blocks'], originUtcMs: UtcMs): Placement[] {
  const index = new Map(problem.goals.map(({ id }, g) => [id, g]));
  return blocks.flatMap(({ runs }) =>
    runs.flatMap(({ goalId, exposureStartsUtcMs }) => {
      const goal = index.get(goalId);
      return goal === undefined
        ? []
        : [{ goal, startsSec: exposureStartsUtcMs.map((utcMs) => (utcMs - originUtcMs) / 1000) }];
    }),
  );
}

/** Full hours from the first stay on, and the end of the last. */
function hoursWithin(blocks: NightPlan['blocks'], originUtcMs: UtcMs): number[] {
  const endUtcMs = blocks[blocks.length - 1].endUtcMs;
  const hours: number[] = [];
  for (
    let utcMs = HOUR_MS * Math.ceil((blocks[0].startUtcMs + HOUR_MS / 2) / HOUR_MS);
    utcMs < endUtcMs;
    utcMs += HOUR_MS
  )
    hours.push(utcMs);
  return [...hours, endUtcMs].map((utcMs) => (utcMs - originUtcMs) / 1000);
}
