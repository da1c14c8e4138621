// A night's sky and plans: computed when asked for, kept while their problem is the same, frozen when published.
import type {
  NightPage,
  NightSky,
  Observatory,
  ResponseOf,
  Rig,
  publishPlan,
  readNightSky,
  readProjectOutlook,
} from '@meridiem/contract';
import type { NightPlan, NightRequest, ObservingNight, Outlook } from '@meridiem/core';
import { DEFAULT_SOLVE_OPTIONS, MINUTE_MS, nightDateAt, nightDatePlus, observingNight } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { SurveyedGoal } from '../../jobs/plan-job.ts';
import type { PlanResult } from '../../jobs/plan-job.ts';
import type { PlanWorker } from '../../jobs/plan-worker.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { placedRows } from '../../moving-target.ts';
import { asSeenBy, isVisible } from '../../privacy.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { currentRunOf } from '../runs/index.ts';
import type { GoalRow } from './goal-rows.ts';
import { goalRowsOf, limitsOf } from './goal-rows.ts';
import { insertPublishedPlan, publishedPlanOf } from './published.ts';
import { recordNight } from './record-night.ts';
import { hashOf, nightRequest, standingHash } from './request.ts';
import { rigPlan } from './rig-plan.ts';
import { nightSky } from './sky.ts';

/** Nights that can be looked at, before and after tonight. */
const NIGHTS_BACK = 400;
const NIGHTS_AHEAD = 90;
const DAY_MS = 86_400_000;
/** What moves is planned where it stands in the middle of the night; it is pointed at anew for each exposure. */
const middleOf = ({ startUtcMs, endUtcMs }: ObservingNight): number => (startUtcMs + endUtcMs) / 2;
/** While a night runs, what is left of it is planned anew from the next full five minutes. */
const REPLAN_STEP_MS = 5 * MINUTE_MS;
const KEPT_PLANS = 60;
/** Nights ahead that a project's outlook plans, and how hard it tries on each: a forecast, not a plan. */
const OUTLOOK_NIGHTS = 60;
const OUTLOOK_OPTIONS = { seed: 1, iterations: 60 };

/** A rig's goals under one night's sky, with the working plan. */
export interface SurveyedRig {
  readonly rig: Rig;
  readonly rows: readonly GoalRow[];
  readonly plan: NightPlan;
  readonly goals: ReadonlyMap<string, SurveyedGoal>;
  readonly problemHash: string;
}

export type NightService = ReturnType<typeof createNightService>;

export interface NightParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly observatory: ObservatoryService;
  readonly planWorker: PlanWorker;
}

export function createNightService({ database, clock, observatory: observatories, planWorker }: NightParts) {
  const kept = new Map<string, Promise<PlanResult>>();
  const keptOutlooks = new Map<string, Promise<Outlook>>();

  /** The same problem is solved once; a cache holds results of a pure function, so any number of servers may each have their own. */
  function once<T>(cache: Map<string, Promise<T>>, hash: string, work: () => Promise<T>): Promise<T> {
    const known = cache.get(hash);
    if (known) return known;
    const result = work();
    result.catch(() => cache.delete(hash));
    cache.set(hash, result);
    if (cache.size > KEPT_PLANS) cache.delete(cache.keys().next().value as string);
    return result;
  }

  const planOf = (request: NightRequest): Promise<PlanResult> =>
    once(kept, hashOf(request), () => planWorker.plan({ request, options: DEFAULT_SOLVE_OPTIONS }));

  function nightNamed(observatory: Observatory, nightDate: string): ObservingNight {
    const night = observingNight(nightDate === 'tonight' ? observatory.tonight : nightDate, observatory.timeZone);
    const away = (Date.parse(night.nightDate) - Date.parse(observatory.tonight)) / DAY_MS;
    if (away > NIGHTS_AHEAD || away < -NIGHTS_BACK)
      throw notFound(`night within ${NIGHTS_BACK} nights back and ${NIGHTS_AHEAD} ahead`);
    return night;
  }

  /** The moment from which a night is still open: past exposures and, during the night, past time are behind. */
  async function openFrom(
    observatory: Observatory,
    rig: Rig,
    night: ObservingNight,
    sky: NightSky,
  ): Promise<number | null> {
    const last = await database.one<{ endUtcMs: number | null }>(
      `SELECT (extract(epoch FROM max(e.start_utc + e.exposure_s * interval '1 second')) * 1000)::float8 AS "endUtcMs"
       FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id WHERE e.observatory_id = $1 AND e.night_date = $2 AND v.rig_id = $3`,
      [observatory.id, night.nightDate, rig.id],
    );
    const nowUtcMs = clock.nowUtcMs();
    const running =
      sky.sunsetUtcMs !== null && nowUtcMs > sky.sunsetUtcMs
        ? Math.ceil(nowUtcMs / REPLAN_STEP_MS) * REPLAN_STEP_MS
        : 0;
    const from = Math.max(last?.endUtcMs ?? 0, running);
    return from > 0 ? from : null;
  }

  async function surveyRig(
    observatory: Observatory,
    rig: Rig,
    night: ObservingNight,
    sky = nightSky(observatory, night),
  ): Promise<SurveyedRig> {
    const [all, limits, fromUtcMs] = await Promise.all([
      goalRowsOf(database, rig.id),
      limitsOf(database, observatory.id),
      openFrom(observatory, rig, night, sky),
    ]);
    const rows = placedRows(all, observatory, middleOf(night));
    const request = nightRequest({ observatory, rig, night, fromUtcMs, rows, limits });
    const { plan, goals } = await planOf(request);
    return {
      rig,
      rows,
      plan,
      goals: new Map(goals.map((goal) => [goal.goalId, goal])),
      problemHash: standingHash(request),
    };
  }

  async function rigPage(
    viewer: Viewer,
    observatory: Observatory,
    rig: Rig,
    night: ObservingNight,
    sky: NightSky,
    wish: 'working' | 'published' | null,
  ) {
    const [published, run, taken] = await Promise.all([
      publishedPlanOf(database, rig.id, night.nightDate),
      currentRunOf(database, viewer, { rigId: rig.id, nightDate: night.nightDate }),
      takenIn(observatory, night),
    ]);
    const surveyed = await surveyRig(observatory, rig, night, sky);
    const shown = wish === 'working' ? null : published;
    const isOpen = night.nightDate >= observatory.tonight;
    return rigPlan({
      observatory,
      rig,
      sky,
      rows: surveyed.rows.map(asSeenBy(viewer)),
      plan: shown?.plan ?? surveyed.plan,
      published: shown && { ...shown, stale: isOpen && run === null && shown.problemHash !== surveyed.problemHash },
      taken,
      run,
    });
  }

  const takenIn = (
    observatory: Observatory,
    night: ObservingNight,
  ): Promise<{ goalId: string; startUtcMs: number }[]> =>
    database.rows(
      `SELECT a.goal_id AS "goalId", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs" FROM exposures e
       JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL WHERE e.observatory_id = $1 AND e.night_date = $2 AND a.goal_id IS NOT NULL`,
      [observatory.id, night.nightDate],
    );

  return {
    /** Every rig's goals under tonight's sky, for project lists. */
    async surveyTonight(
      observatoryId: string,
    ): Promise<{ observatory: Observatory; sky: NightSky; rigs: SurveyedRig[] }> {
      const observatory = await observatories.read(observatoryId);
      const night = observingNight(observatory.tonight, observatory.timeZone);
      const sky = nightSky(observatory, night);
      return {
        observatory,
        sky,
        rigs: await Promise.all(observatory.rigs.map((rig) => surveyRig(observatory, rig, night, sky))),
      };
    },

    async read(viewer: Viewer, nightDate: string, wish: 'working' | 'published' | null): Promise<NightPage> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const sky = nightSky(observatory, night);
      const rigs = await Promise.all(
        observatory.rigs.map((rig) => rigPage(viewer, observatory, rig, night, sky, wish)),
      );
      return {
        sky,
        timeZone: observatory.timeZone,
        nowUtcMs: clock.nowUtcMs(),
        isTonight: night.nightDate === observatory.tonight,
        isEstimate: night.nightDate > observatory.tonight,
        horizon: observatory.horizon,
        rigs,
      };
    },

    /** Nights that a project alone would still need; one not granted yet is looked at as if it were. */
    async outlook(viewer: Viewer, projectId: string): Promise<ResponseOf<typeof readProjectOutlook>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const project = await database.one<{ rigId: string; private: boolean; ownerId: string }>(
        'SELECT rig_id AS "rigId", private, owner_id AS "ownerId" FROM projects WHERE id = $1 AND observatory_id = $2',
        [projectId, viewer.observatoryId],
      );
      const rig = observatory.rigs.find((candidate) => candidate.id === project?.rigId);
      if (!project || !rig || !isVisible(project, viewer)) throw notFound('project');
      const own = (await goalRowsOf(database, rig.id)).filter((row) => row.projectId === projectId);
      const rows = own
        .filter(({ wanted }) => wanted !== null)
        .map((row) => ({ ...row, state: 'granted', resting: false }));
      // What moves is taken where it stands tonight: an outlook, not an ephemeris.
      const placed = placedRows(rows, observatory, clock.nowUtcMs());
      const nights = Array.from({ length: OUTLOOK_NIGHTS }, (_, i) =>
        observingNight(nightDatePlus(observatory.tonight, i), observatory.timeZone),
      );
      const limits = await limitsOf(database, observatory.id);
      const request = nightRequest({ observatory, rig, night: nights[0], fromUtcMs: null, rows: placed, limits });
      const outlook = await once(keptOutlooks, hashOf(request), () =>
        planWorker.outlook({ request, nights, options: OUTLOOK_OPTIONS }),
      );
      return {
        ...outlook,
        nights: [...outlook.nights],
        lookedAheadNights: OUTLOOK_NIGHTS,
        openEnded: own.filter(({ wanted, enabled }) => wanted === null && enabled).length,
      };
    },

    async sky(observatoryId: string, nightDate: string): Promise<ResponseOf<typeof readNightSky>> {
      const site = await observatories.site(observatoryId);
      const named = nightDate === 'tonight' ? nightDateAt(clock.nowUtcMs(), site.timeZone) : nightDate;
      return {
        sky: nightSky(site, observingNight(named, site.timeZone)),
        timeZone: site.timeZone,
        nowUtcMs: clock.nowUtcMs(),
      };
    },

    async publish(viewer: Viewer, nightDate: string, rigId: string): Promise<ResponseOf<typeof publishPlan>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const rig = observatory.rigs.find((candidate) => candidate.id === rigId);
      if (!rig) throw notFound('rig');
      if (night.nightDate < observatory.tonight)
        throw new ServiceError('NOT_POSSIBLE', 'This night is over; its plan stays as it was');
      const { plan, problemHash } = await surveyRig(observatory, rig, night);
      if (plan.blocks.length === 0)
        throw new ServiceError(
          'NOT_POSSIBLE',
          'There is nothing to publish: no goal can be exposed in what is left of this night',
        );
      return database.transaction(async (queries) => {
        const running = await queries.one(
          `SELECT 1 FROM night_runs WHERE rig_id = $1 AND state IN ('requested', 'running', 'stopping')`,
          [rigId],
        );
        if (running) throw new ServiceError('NOT_POSSIBLE', 'A night is playing on this rig; stop it first');
        const { seed, iterations } = DEFAULT_SOLVE_OPTIONS;
        await recordNight(queries, viewer.observatoryId, night);
        const stored = await insertPublishedPlan(queries, {
          observatoryId: viewer.observatoryId,
          rigId,
          nightDate: night.nightDate,
          personId: viewer.personId,
          problemHash,
          seed,
          iterations,
          plan,
        });
        await announce(queries, viewer.observatoryId, 'plan', [rigId]);
        return stored;
      });
    },
  };
}
