// From accepted, undecided and wanted to what is done, what is left, and how balanced it is.
import { REFERENCE_LEAST } from './judging.ts';

export type CountingPolicy = 'all' | 'after_rules' | 'after_person';

/** What rules can do for a goal. */
export interface RuleReach {
  /** Whether the project is judged by rules. */
  readonly judging: boolean;
  /** Whether the rig has any rule switched on. */
  readonly hasRules: boolean;
  readonly wanted: number | null;
}

/** The policy as it works for one goal: where rules decide nothing — switched off, or fewer exposures wanted than one is
 * compared with — "after rules" counts all but rejected. */
export const countingInForce = (policy: CountingPolicy, { judging, hasRules, wanted }: RuleReach): CountingPolicy =>
  policy === 'after_rules' && (!judging || !hasRules || (wanted !== null && wanted < REFERENCE_LEAST)) ? 'all' : policy;

/** Exposure equivalents of one goal by verdict in force, and what is wanted; null wants without end. */
export interface GoalTally {
  readonly accepted: number;
  readonly undecided: number;
  readonly rejected: number;
  readonly wanted: number | null;
}

/** An undecided exposure's chance of being accepted, until the project's own history says otherwise. */
export const INITIAL_ACCEPTANCE_RATE = 0.9;

/** An open-ended goal asks for this many exposures a night; dawn ends it. */
export const OPEN_ENDED_COUNT = 10_000;

/** Exposures that count as done. Under "count all" what nobody has judged counts; a rejected exposure never does. */
export const doneCount = (tally: GoalTally, policy: CountingPolicy): number =>
  tally.accepted + (policy === 'all' ? tally.undecided : 0);

/** Share of the wish that is done, [0, 1]; 0 for an open-ended goal, which is never done. */
export function doneShare(tally: GoalTally, policy: CountingPolicy): number {
  if (tally.wanted === null) return 0;
  return tally.wanted === 0 ? 1 : Math.min(1, doneCount(tally, policy) / tally.wanted);
}

/** Whether a goal needs nothing more. */
export const isGoalDone = (tally: GoalTally, policy: CountingPolicy): boolean => doneShare(tally, policy) >= 1;

/** Whole exposures that planning asks for: wanted − accepted − q · undecided, at least 0; q is 1 under "count all". */
export function exposuresToPlan(tally: GoalTally, policy: CountingPolicy, acceptanceRate: number): number {
  if (tally.wanted === null) return OPEN_ENDED_COUNT;
  const expected = tally.accepted + (policy === 'all' ? 1 : acceptanceRate) * tally.undecided;
  return Math.max(0, Math.ceil(tally.wanted - expected - 1e-9));
}

/** A project's own acceptance rate: accepted over judged, held near the initial value while few are judged. */
export function acceptanceRate(accepted: number, rejected: number): number {
  const prior = 20;
  return (accepted + INITIAL_ACCEPTANCE_RATE * prior) / (accepted + rejected + prior);
}

/** How many goal counts one exposure is worth: 1 within 1 % of the goal's length, else seconds ÷ length. */
export function creditShare(exposureSec: number, goalExposureSec: number): number {
  const ratio = exposureSec / goalExposureSec;
  return Math.abs(ratio - 1) <= 0.01 ? 1 : ratio;
}

/** A panel is as far as its least-served goal; 1 for a panel without goals. */
export const panelShare = (shares: readonly number[]): number =>
  shares.reduce((least, share) => Math.min(least, share), 1);
