// A night looked at afterwards: the best it could have been by the same planner, and where the difference went. Each share is the
// difference of two nights played again, one with a cause and one without it; what no cause explains is shown as it is.
import type { UtcMs } from '../../units.ts';
import { nightProblem } from '../night/night-problem.ts';
import type { NightPlan, NightRequest } from '../night/night-request.ts';
import { DEFAULT_SOLVE_OPTIONS, solveNight } from '../night/solve-night.ts';
import { surveyNight } from '../night/survey.ts';
import type { NightProblem, Placement } from '../problem.ts';
import type { ExposureAt, LossCause, LostTime, NightRecord } from './lost-time.ts';
import { lostTime } from './lost-time.ts';
import type { LeftSec, LostSec, Played, PlanInForce, Shot } from './played-night.ts';
import { playedNight, shotsOf, slowedBy, spanInSec, withoutLost, worthOf } from './played-night.ts';
import type { Slowness } from './slowness.ts';
import { gapTaken, slownessOf } from './slowness.ts';

/** Changes whenever the same night would be reviewed differently. */
export const REVIEW_VERSION = 2;

/** Where a night's gap went: weather that nobody knew of, the plan itself and those made again in the night, changes and holds by hand,
 * faults, slow steps, what none of them explains, exposures rejected since. */
export const GAP_CAUSES = ['weather', 'plan', 'hands', 'faults', 'overhead', 'remainder', 'rejected'] as const;
export type GapCause = (typeof GAP_CAUSES)[number];

/** What each night of the ladder has that the one above it has not. */
const RUNG_CAUSES: readonly GapCause[] = ['weather', 'plan', 'hands', 'faults', 'overhead', 'plan', 'remainder', 'rejected']; // prettier-ignore

export interface NightReview {
  /** Hours exposed in the best night. */
  readonly bestHours: number;
  /** What the night brought, in hours of the best night's worth: by weight, sky, balance and completion, as the planner counts. */
  readonly takenHours: number;
  /** Whose sum is the gap; negative where a cause was a gain. */
  readonly gapHours: Readonly<Record<GapCause, number>>;
  readonly takenExposureHours: number;
  /** Everything but exposing took so many times as long as the rig's own times say. */
  readonly overheadFactor: number;
  /** Hours in which nothing could be exposed, by cause. */
  readonly lostHours: Readonly<Record<LossCause, number>>;
  /** The best night: how many exposures of each goal. */
  readonly best: readonly { readonly goalId: string; readonly exposures: number }[];
}

export interface ReviewedNight {
  /** What the night's plan was made from. */
  readonly request: NightRequest;
  readonly plan: Pick<NightPlan, 'blocks'>;
  readonly record: NightRecord;
}

export interface ReviewOptions {
  readonly seeds: readonly number[];
  readonly iterations: number;
}
/** In hindsight there is time to look harder than in the evening. */
export const DEFAULT_REVIEW_OPTIONS: ReviewOptions = { seeds: [1, 2, 3], iterations: 10_000 };

/** Told how far it is. @returns whether it is to be given up */
type Telling = (share: number) => boolean;

/** @returns null where the sky of that night left nothing to plan, or it was given up */
export function reviewNight(
  night: ReviewedNight,
  options: ReviewOptions = DEFAULT_REVIEW_OPTIONS,
  telling: Telling = () => false,
): NightReview | null {
  const facts = factsOf(night);
  const rungs = facts && rungsOf(facts, options, telling);
  if (!facts || !rungs) return null;
  const { problem, slowness, time } = facts;
  const best = rungs[0];
  const bestHours = exposureHours(problem, best);
  const worths = rungs.map((shots) => worthOf(problem, shots));
  // In the worth of an hour of the best night.
  const hours = worths.map((worth) => (worths[0] > 0 ? (worth / worths[0]) * bestHours : 0));
  const gapHours = Object.fromEntries(GAP_CAUSES.map((cause) => [cause, 0])) as Record<GapCause, number>;
  RUNG_CAUSES.forEach((cause, i) => (gapHours[cause] += hours[i] - hours[i + 1]));
  return {
    bestHours,
    takenHours: hours[hours.length - 1],
    gapHours,
    takenExposureHours: exposureHours(problem, rungs[rungs.length - 1]),
    overheadFactor: slowness.all,
    lostHours: lostHoursOf(time),
    best: countsOf(night.request, best),
  };
}

/** The best night in hindsight, for a judge of plans: the problem without the hours that the weather took, and its solution. */
export function bestInHindsight(
  night: ReviewedNight,
  options: ReviewOptions = DEFAULT_REVIEW_OPTIONS,
): { problem: NightProblem; placements: readonly Placement[] } | null {
  const facts = factsOf(night);
  if (!facts) return null;
  const problem = withoutLost(facts.problem, facts.lost(['weather']));
  return { problem, placements: thorough(options)(problem) };
}

interface NightFacts {
  /** Without and with what hands have set. */
  readonly problem: NightProblem;
  readonly handled: NightProblem;
  readonly time: LostTime;
  readonly lost: (causes: readonly LossCause[]) => LostSec[];
  readonly left: (causes: readonly LossCause[]) => LeftSec[];
  readonly published: readonly Shot[];
  readonly isUntouched: boolean;
  readonly madeAgain: readonly PlanInForce[];
  readonly taken: readonly Shot[];
  readonly kept: readonly Shot[];
  readonly slowness: Slowness;
}

function factsOf({ request, plan, record }: ReviewedNight): NightFacts | null {
  const { wishes = [], kept: _kept, fromUtcMs: _from, ...free } = request;
  const whole: NightRequest = { ...free, fromUtcMs: null };
  const survey = surveyNight(whole);
  if (!survey) return null;
  const originUtcMs = survey.table.startUtcMs;
  const problem = nightProblem(whole, survey);
  const time = lostTime(record, originUtcMs + problem.lengthSec * 1000);
  const shots = (exposures: readonly ExposureAt[]): Shot[] => shotsAt(exposures, request, originUtcMs);
  const taken = shots(record.taken);
  return {
    problem,
    handled: nightProblem({ ...whole, wishes }, survey),
    time,
    ...inSeconds(time, request, originUtcMs),
    published: shots(exposuresOf(plan)),
    isUntouched: wishes.length === 0,
    madeAgain: record.madeAgain.map(({ fromUtcMs, exposures }) => ({
      fromSec: (fromUtcMs - originUtcMs) / 1000,
      shots: shots(exposures),
    })),
    taken,
    kept: shots(record.taken.filter(({ isRejected }) => !isRejected)),
    slowness: slownessOf(problem, taken, { time, record, originUtcMs }),
  };
}

/** Nights from the best one down to what is kept of the real one, each with one cause more.
 * @returns null where it was given up */
function rungsOf(facts: NightFacts, options: ReviewOptions, telling: Telling): (readonly Shot[])[] | null {
  const { problem, handled, published, isUntouched, madeAgain, slowness, taken, kept } = facts;
  const under = (...causes: LossCause[]): Pick<Played, 'lost' | 'left'> => ({
    lost: facts.lost(causes),
    left: facts.left(causes),
  });
  const asPublished = { first: published, solve: usual };
  const slowed = { ...asPublished, gapSec: (from: number, to: number, fromSec: number) => gapTaken(slowness.gaps, { from, to, fromSec }) }; // prettier-ignore
  const nights: (() => readonly Shot[])[] = [
    () => shotsOf(thorough(options)(withoutLost(problem, facts.lost(['weather'])))),
    () => playedNight(problem, { ...under('weather'), solve: thorough(options) }),
    () => playedNight(problem, { ...under('weather'), solve: usual, ...(isUntouched ? asPublished : {}) }),
    () => playedNight(handled, { ...under('weather', 'hand'), ...asPublished }),
    () => playedNight(handled, { ...under('weather', 'hand', 'fault'), ...asPublished }),
    () => playedNight(slowedBy(handled, slowness), { ...under('weather', 'hand', 'fault'), ...slowed }),
    () => playedNight(slowedBy(handled, slowness), { ...under('weather', 'hand', 'fault'), ...slowed, madeAgain }),
  ];
  const rungs: (readonly Shot[])[] = [];
  for (const [i, night] of nights.entries()) {
    rungs.push(night());
    if (telling((i + 1) / nights.length)) return null;
  }
  return [...rungs, taken, kept];
}

const usual = (problem: NightProblem): readonly Placement[] => solveNight(problem, DEFAULT_SOLVE_OPTIONS).placements;

const thorough =
  ({ seeds, iterations }: ReviewOptions) =>
  (problem: NightProblem): readonly Placement[] => {
    // In hindsight it is known when the night ends.
    const known = { ...problem, endHazardPerHour: 0 };
    const solutions = seeds.map((seed) => solveNight(known, { seed, iterations }));
    return solutions.reduce((best, one) => (one.value > best.value ? one : best)).placements;
  };

function shotsAt(exposures: readonly ExposureAt[], { goals }: NightRequest, originUtcMs: UtcMs): Shot[] {
  const index = new Map(goals.map(({ id }, g) => [id, g]));
  return exposures
    .flatMap(({ goalId, startUtcMs }) => {
      const goal = index.get(goalId);
      return goal === undefined ? [] : [{ goal, startSec: (startUtcMs - originUtcMs) / 1000 }];
    })
    .sort((a, b) => a.startSec - b.startSec);
}

const exposuresOf = ({ blocks }: Pick<NightPlan, 'blocks'>): ExposureAt[] =>
  blocks.flatMap(({ runs }) =>
    runs.flatMap(({ goalId, exposureStartsUtcMs }) =>
      exposureStartsUtcMs.map((startUtcMs) => ({ goalId, startUtcMs })),
    ),
  );

function inSeconds(
  { spans, left }: LostTime,
  { panels }: NightRequest,
  originUtcMs: UtcMs,
): Pick<NightFacts, 'lost' | 'left'> {
  const index = new Map(panels.map(({ id }, i) => [id, i]));
  return {
    lost: (causes) =>
      spans
        .filter(({ cause, endUtcMs }) => causes.includes(cause) && endUtcMs > originUtcMs)
        .map((span) => spanInSec({ ...span, startUtcMs: Math.max(originUtcMs, span.startUtcMs) }, originUtcMs)),
    left: (causes) =>
      left.flatMap(({ panelId, fromUtcMs, cause }) => {
        const panel = index.get(panelId);
        return causes.includes(cause) && panel !== undefined
          ? [{ panel, fromSec: Math.max(0, (fromUtcMs - originUtcMs) / 1000) }]
          : [];
      }),
  };
}

const exposureHours = ({ goals }: NightProblem, shots: readonly Shot[]): number =>
  shots.reduce((sum, { goal }) => sum + goals[goal].exposureSec, 0) / 3600;

function lostHoursOf({ spans }: LostTime): Record<LossCause, number> {
  const of = (cause: LossCause): number =>
    spans.reduce((sum, one) => (one.cause === cause ? sum + (one.endUtcMs - one.startUtcMs) : sum), 0) / 3_600_000;
  return { weather: of('weather'), fault: of('fault'), hand: of('hand') };
}

function countsOf({ goals }: NightRequest, shots: readonly Shot[]): NightReview['best'] {
  const counts = new Map<number, number>();
  for (const { goal } of shots) counts.set(goal, (counts.get(goal) ?? 0) + 1);
  return [...counts].map(([goal, exposures]) => ({ goalId: goals[goal].id, exposures }));
}
