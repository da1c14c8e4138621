// What goes into and comes out of a planning job; both sides of the thread speak it.
import type {
  AskedNight,
  ComparedSeasons,
  ExplainOptions,
  SeasonReason,
  Gap,
  GoalNight,
  Interval,
  LimitKey,
  NightPlan,
  NightRequest,
  NightReview,
  ObservingNight,
  OtherRig,
  ProposedVisit,
  ReserveGoal,
  ReviewedNight,
  ReviewOptions,
  SeasonBefore,
  SeasonOptions,
  SeasonRequest,
  SolveOptions,
  VisitOptions,
} from '@meridiem/core';

export interface PlanJob {
  readonly request: NightRequest;
  readonly options: SolveOptions;
}

/** A plan of the request, looked at as if its night might end at any time. */
export interface EarlyEndsJob extends PlanJob {
  readonly plan: Pick<NightPlan, 'blocks'>;
}

export interface OutlookJob extends PlanJob {
  /** Nights to plan one after the other. */
  readonly nights: readonly ObservingNight[];
}

/** What of a goal's night crosses the thread: windows and reasons, not the samples. */
export interface SurveyedGoal {
  readonly goalId: string;
  readonly windows: readonly Interval[];
  readonly gaps: readonly Gap[];
  readonly blocked: GoalNight['blocked'];
  readonly limits: GoalNight['limits'];
}

export interface PlanResult {
  readonly plan: NightPlan;
  readonly goals: readonly SurveyedGoal[];
  /** What to turn to when the first choice can't be had. */
  readonly reserve: readonly ReserveGoal[];
  readonly planningMs: number;
}

export interface LimitJob {
  readonly request: NightRequest;
  readonly nights: readonly ObservingNight[];
  readonly key: LimitKey;
  readonly proposed: number | null | undefined;
}

export interface UsableJob {
  readonly request: NightRequest;
  readonly nights: readonly ObservingNight[];
}

/** The season that stood until it was asked for: what still fits of it is begun with. */
export interface FromBefore {
  readonly before?: SeasonBefore;
}

export interface SeasonJob extends FromBefore {
  readonly request: SeasonRequest;
  readonly options: SeasonOptions;
}

export interface ConsequencesJob extends FromBefore {
  readonly compared: {
    readonly projectId: string;
    readonly withProject: SeasonRequest;
    readonly without: SeasonRequest;
  };
  readonly options: SeasonOptions;
}

export interface SwapDatesJob extends FromBefore {
  readonly swapped: ComparedSeasons;
  readonly options: SeasonOptions;
}

export interface HelpsJob extends FromBefore {
  readonly helped: {
    readonly projectId: string;
    readonly request: SeasonRequest;
    readonly others: readonly OtherRig[];
  };
  readonly options: SeasonOptions;
}

export interface SeasonReasonJob {
  readonly asked: AskedNight;
  readonly options: ExplainOptions;
}

export interface SeasonReasonResult {
  /** Null where no rig has the project in that night any more. */
  readonly reason: SeasonReason | null;
}

export interface VisitsJob {
  readonly visited: SeasonRequest;
  readonly options: VisitOptions;
}

export interface VisitsResult {
  readonly visits: readonly ProposedVisit[];
}

export interface ReviewJob {
  readonly reviewed: ReviewedNight;
  readonly options: ReviewOptions;
}

export interface ReviewResult {
  /** Null where the sky of the night left nothing to plan. */
  readonly review: NightReview | null;
}
