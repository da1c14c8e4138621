// A rig's night as a planning request, and the plans that come of it: the working one, the one without hand changes; each problem solved once.
import type { NightSky, Observatory, Rig } from '@meridiem/contract';
import type { EarlyEnds, NightPlan, NightRequest, ObservingNight, ReserveGoal } from '@meridiem/core';
import { DEFAULT_SOLVE_OPTIONS, hazardOf, MINUTE_MS, withJoined } from '@meridiem/core';
import { LRUCache } from 'lru-cache';
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import type { SurveyedGoal } from '../../jobs/plan-job.ts';
import type { PlanWorker } from '../../jobs/plan-worker.ts';
import { placedInNight } from '../../moving-target.ts';
import type { WishRow } from './hand-changes-repository.ts';
import { keptRunsOf, wishRowsOf } from './hand-changes-repository.ts';
import type { GoalRow } from './goals-repository.ts';
import { earlyEndChanceOf } from './early-end-chance.ts';
import { multipliersOf, withinGrants } from './favours.ts';
import { countedOn, goalRowsOf, lastExposureEndUtcMs, limitsOf } from './goals-repository.ts';
import { nightWish } from './hand-changes.ts';
import { hashOf, nightRequest, standingHash } from './request.ts';
import { notFound } from '../../errors.ts';
import { joinedGoalsOf } from '../joins/index.ts';
import { keptNightSky } from '../nights/index.ts';

/** While a night runs, what is left of it is planned anew from the next full five minutes. */
const REPLAN_STEP_MS = 5 * MINUTE_MS;
const KEPT_PLANS = 60;

/** A rig's goals under one night's sky, with the working plan. */
export interface SurveyedRig {
  readonly rig: Rig;
  readonly rows: readonly GoalRow[];
  readonly plan: NightPlan;
  readonly goals: ReadonlyMap<string, SurveyedGoal>;
  readonly reserve: readonly ReserveGoal[];
  readonly problemHash: string;
  readonly wishes: readonly WishRow[];
  readonly request: NightRequest;
}

export interface RestOfNight {
  readonly fromUtcMs: number;
  /** Panels that can't be had tonight. */
  readonly withoutPanelIds: readonly string[];
}

export type RigPlanner = ReturnType<typeof createRigPlanner>;

/** The same problem is solved once; what is kept are results of a pure function, so any number of servers may each have their own. */
function keptResults<Q extends object, R>(solve: (question: Q) => Promise<R>): (question: Q) => Promise<R> {
  const kept = new LRUCache<string, Promise<R>>({ max: KEPT_PLANS });
  return (question) => {
    const hash = hashOf(question);
    const known = kept.get(hash);
    if (known) return known;
    const result = solve(question);
    result.catch(() => kept.delete(hash));
    kept.set(hash, result);
    return result;
  };
}

export interface RigPlannerParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly planWorker: PlanWorker;
}

export function createRigPlanner({ database, clock, planWorker }: RigPlannerParts) {
  const planOf = keptResults((request: NightRequest) => planWorker.plan({ request, options: DEFAULT_SOLVE_OPTIONS }));
  const endsOf = keptResults((cut: { request: NightRequest; plan: Pick<NightPlan, 'blocks'> }) =>
    planWorker.earlyEnds({ ...cut, options: DEFAULT_SOLVE_OPTIONS }),
  );

  /** The moment from which a night is still open: past exposures and, during the night, past time are behind. */
  async function openFrom(rig: Rig, night: ObservingNight, sky: NightSky): Promise<number | null> {
    // A night that is over is looked at whole: as it would have been planned.
    if (night.endUtcMs <= clock.nowUtcMs()) return null;
    const lastUtcMs = await lastExposureEndUtcMs(database, rig.id, night);
    const nowUtcMs = clock.nowUtcMs();
    const running =
      sky.sunsetUtcMs !== null && nowUtcMs > sky.sunsetUtcMs
        ? Math.ceil(nowUtcMs / REPLAN_STEP_MS) * REPLAN_STEP_MS
        : 0;
    const from = Math.max(lastUtcMs ?? 0, running);
    return from > 0 ? from : null;
  }

  /** What a rig's night is planned from, of what is left after a moment. */
  async function standing(
    observatory: Observatory,
    rig: Rig,
    { night, sky, fromUtcMs }: { night: ObservingNight; sky: NightSky; fromUtcMs: number | null },
  ): Promise<Pick<SurveyedRig, 'rows' | 'wishes' | 'request'>> {
    const rigNight = { observatoryId: observatory.id, rigId: rig.id, nightDate: night.nightDate };
    const [all, limits, wishes, keptRuns, joined, earlyEnd] = await Promise.all([
      goalRowsOf(database, rig.id),
      limitsOf(database, observatory.id),
      wishRowsOf(database, rigNight),
      keptRunsOf(database, rigNight),
      joinedGoalsOf(database, rig.id),
      earlyEndChanceOf(database, observatory.id),
    ]);
    // What moves is planned where it stands in the middle of the night; it is pointed at anew for each exposure.
    const rows = placedInNight(countedOn(all, night.nightDate), observatory, night);
    const multipliers = await multipliersOf(database, observatory, { rigId: rig.id, sky }, rows);
    const plain = nightRequest({ observatory, rig, night, fromUtcMs, rows, limits, multipliers });
    const request: NightRequest = {
      ...withJoined(await withinGrants(database, observatory.id, plain, rows), joined),
      ...(wishes.length > 0 ? { wishes: wishes.map(nightWish) } : {}),
      ...(keptRuns ? { kept: keptRuns } : {}),
      ...(earlyEnd > 0 ? { endHazardPerHour: hazardOf(earlyEnd / 100) } : {}),
    };
    return { rows, wishes, request };
  }

  async function survey(
    observatory: Observatory,
    rig: Rig,
    night: ObservingNight,
    sky = keptNightSky(observatory, night),
  ): Promise<SurveyedRig> {
    const fromUtcMs = await openFrom(rig, night, sky);
    const { rows, wishes, request } = await standing(observatory, rig, { night, sky, fromUtcMs });
    const { plan, goals, reserve } = await planOf(request);
    return {
      rig,
      rows,
      plan,
      goals: new Map(goals.map((goal) => [goal.goalId, goal])),
      reserve,
      problemHash: standingHash(request),
      wishes,
      request,
    };
  }

  return {
    survey,

    /** What is best from a moment on, whatever was planned before. */
    async restOfNight(
      observatory: Observatory,
      rig: Rig,
      night: ObservingNight,
      { fromUtcMs, withoutPanelIds }: RestOfNight,
    ): Promise<NightPlan> {
      const sky = keptNightSky(observatory, night);
      const { request } = await standing(observatory, rig, { night, sky, fromUtcMs });
      const { kept: _kept, wishes = [], ...plain } = request;
      const left = withoutPanelIds.map((panelId) => ({ id: panelId, kind: 'ban' as const, panelId }));
      return (await planOf({ ...plain, wishes: [...wishes, ...left] })).plan;
    },

    /** The plan as it would be without any hand change. */
    async automatic({ request }: SurveyedRig): Promise<NightPlan> {
      const { wishes: _wishes, kept: _kept, ...plain } = request;
      return (await planOf(plain)).plan;
    },

    /** What the working plan holds, should the night end early. */
    earlyEnds: ({ request, plan }: SurveyedRig): Promise<EarlyEnds | null> =>
      endsOf({ request, plan: { blocks: plan.blocks } }),

    limit: planWorker.limit,
    usable: planWorker.usable,
  };
}

/** @throws NOT_FOUND */
export function rigNamed(observatory: Observatory, rigId: string): Rig {
  const rig = observatory.rigs.find((candidate) => candidate.id === rigId);
  if (!rig) throw notFound('rig');
  return rig;
}
