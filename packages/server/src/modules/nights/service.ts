// A night's sky and plans: computed when asked for, kept while their problem is the same, frozen when published.
import type {
  BodyOf,
  changeByHand,
  NightPage,
  NightSky,
  Observatory,
  publishPlan,
  readNightSky,
  readNightStandings,
  readPlanning,
  ResponseOf,
  Rig,
} from '@meridiem/contract';
import { shownWishes } from '@meridiem/contract';
import type { ObservingNight } from '@meridiem/core';
import { clockTimeInNight, nightDateAt, observingNight } from '@meridiem/core';
import { notFound, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { asSeenBy } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { currentRunOf } from '../runs/index.ts';
import { keepForGood, nightWish, runsOfPlan, storeHandChanges } from './hand-changes.ts';
import type { JobService } from '../../jobs/service.ts';
import { createProjectNights } from './project-nights.ts';
import { publishedPlanOf, versionsOf } from './published-repository.ts';
import { publishVersion } from './publishing.ts';
import { planName, rigPlan } from './rig-plan.ts';
import type { RigPlannerParts, SurveyedRig } from './rig-planner.ts';
import { createRigPlanner } from './rig-planner.ts';
import { keptNightSky } from './kept-sky.ts';
import { exposuresOfNight, takenOfNight } from './goals-repository.ts';
import { standingsOf } from './standings.ts';
import { takeBackHandChanges } from './take-back-hand-changes.ts';

/** Nights that can be looked at, before and after tonight. */
const NIGHTS_BACK = 400;
const NIGHTS_AHEAD = 90;
const DAY_MS = 86_400_000;
export type NightService = ReturnType<typeof createNightService>;

export interface NightParts extends RigPlannerParts {
  readonly observatory: ObservatoryService;
  readonly changes: ChangeService;
  readonly jobs: JobService;
}

/** Which plan to show: as published where there is one (null), the working one, the one without hand changes, or a version. */
type PlanWish = 'working' | 'published' | 'automatic' | `v${number}` | null;

const seqOf = (wish: PlanWish): number | null => (wish?.startsWith('v') ? Number(wish.slice(1)) : null);

export function createNightService({
  database,
  clock,
  observatory: observatories,
  changes,
  planWorker,
  jobs,
}: NightParts) {
  changes.register('plan_wishes', { by: 'coordinator', takeBack: takeBackHandChanges });
  const planner = createRigPlanner({ database, clock, planWorker });

  function nightNamed(observatory: Observatory, nightDate: string): ObservingNight {
    const night = observingNight(nightDate === 'tonight' ? observatory.tonight : nightDate, observatory.timeZone);
    const away = (Date.parse(night.nightDate) - Date.parse(observatory.tonight)) / DAY_MS;
    if (away > NIGHTS_AHEAD || away < -NIGHTS_BACK)
      throw notFound(`night within ${NIGHTS_BACK} nights back and ${NIGHTS_AHEAD} ahead`);
    return night;
  }

  async function rigPage(
    viewer: Viewer,
    observatory: Observatory,
    rig: Rig,
    night: ObservingNight,
    sky: NightSky,
    wish: PlanWish,
  ) {
    const [published, run, taken, versions, surveyed] = await Promise.all([
      publishedPlanOf(database, rig.id, night.nightDate, seqOf(wish)),
      currentRunOf(database, viewer, { rigId: rig.id, nightDate: night.nightDate }),
      exposuresOfNight(database, observatory.id, night),
      versionsOf(database, rig.id, night.nightDate),
      planner.survey(observatory, rig, night, sky),
    ]);
    const automatic = surveyed.wishes.length > 0 || wish === 'automatic' ? await planner.automatic(surveyed) : null;
    const shown = wish === 'working' || wish === 'automatic' ? null : published;
    const isOpen = night.nightDate >= observatory.tonight;
    const stale =
      isOpen && run?.kind !== 'night' && shown?.state === 'published' && shown.problemHash !== surveyed.problemHash;
    const plan = shown?.plan ?? (wish === 'automatic' ? automatic! : surveyed.plan);
    const rows = surveyed.rows.map(asSeenBy(viewer));
    return rigPlan({
      observatory,
      rig,
      sky,
      rows,
      plan,
      state: shown?.state ?? (wish === 'automatic' ? 'automatic' : 'working'),
      published: shown && { ...shown, stale },
      taken,
      run,
      wishes: shownWishes(surveyed.wishes.map(nightWish), rows, surveyed.plan.broken ?? []),
      automaticValue: surveyed.wishes.length > 0 ? automatic!.value : null,
      versions,
      cutOffUtcMs: clockTimeInNight(night, observatory.cutOffClockMin, observatory.timeZone),
      reserve: surveyed.reserve,
    });
  }

  function rigNamed(observatory: Observatory, rigId: string): Rig {
    const rig = observatory.rigs.find((candidate) => candidate.id === rigId);
    if (!rig) throw notFound('rig');
    return rig;
  }

  return {
    ...createProjectNights({ database, clock, observatory: observatories, planner, jobs }),

    /** Every rig's goals under tonight's sky, for project lists. */
    async surveyTonight(
      observatoryId: string,
    ): Promise<{ observatory: Observatory; sky: NightSky; rigs: SurveyedRig[] }> {
      const observatory = await observatories.read(observatoryId);
      const night = observingNight(observatory.tonight, observatory.timeZone);
      const sky = keptNightSky(observatory, night);
      return {
        observatory,
        sky,
        rigs: await Promise.all(observatory.rigs.map((rig) => planner.survey(observatory, rig, night, sky))),
      };
    },

    async read(viewer: Viewer, nightDate: string, wish: PlanWish): Promise<NightPage> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const sky = keptNightSky(observatory, night);
      const rigs = await Promise.all(
        observatory.rigs.map((rig) => rigPage(viewer, observatory, rig, night, sky, wish)),
      );
      // Versions belong to a rig; one without this version shows what it has.
      const seq = seqOf(wish);
      if (seq !== null && !rigs.some((rig) => rig.seq === seq)) throw notFound('version of this plan');
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

    /** Every project on a night, by the plan as published or, where none is, as it would be today. */
    async standings(viewer: Viewer, nightDate: string): Promise<ResponseOf<typeof readNightStandings>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const taken = await takenOfNight(database, observatory.id, night);
      const rigs = await Promise.all(
        observatory.rigs.map(async (rig) => {
          const published = await publishedPlanOf(database, rig.id, night.nightDate);
          const surveyed = await planner.survey(observatory, rig, night);
          const rows = surveyed.rows.map(asSeenBy(viewer));
          return { published, standings: standingsOf(surveyed, rows, published?.plan ?? surveyed.plan, taken) };
        }),
      );
      return {
        nightDate: night.nightDate,
        fromPublished: rigs.every(({ published }) => published !== null),
        standings: rigs.flatMap(({ standings }) => standings),
      };
    },

    async sky(observatoryId: string, nightDate: string): Promise<ResponseOf<typeof readNightSky>> {
      const site = await observatories.site(observatoryId);
      const named = nightDate === 'tonight' ? nightDateAt(clock.nowUtcMs(), site.timeZone) : nightDate;
      return {
        sky: keptNightSky(site, observingNight(named, site.timeZone)),
        timeZone: site.timeZone,
        nowUtcMs: clock.nowUtcMs(),
      };
    },

    /** The problem of a rig's night with names, for a page that plans by itself. */
    async planning(viewer: Viewer, rigId: string, nightDate: string): Promise<ResponseOf<typeof readPlanning>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const { request, rows } = await planner.survey(observatory, rigNamed(observatory, rigId), night);
      return { request, names: rows.map(asSeenBy(viewer)).map(planName) };
    },

    async changeByHand(
      viewer: Viewer,
      rigId: string,
      nightDate: string,
      body: BodyOf<typeof changeByHand>,
    ): Promise<{ ok: true }> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      if (night.nightDate < observatory.tonight)
        throw new ServiceError('NOT_POSSIBLE', 'This night is over; its plan stays as it was');
      const { plan, rows } = await planner.survey(observatory, rigNamed(observatory, rigId), night);
      await database.transaction(async (queries) => {
        const rigNight = { observatoryId: viewer.observatoryId, rigId, nightDate: night.nightDate };
        await storeHandChanges(queries, viewer, rigNight, body, { rows, kept: runsOfPlan(plan.blocks), changes });
        await announce(queries, viewer.observatoryId, 'plan', [rigId]);
      });
      return { ok: true };
    },

    async keepHandChange(viewer: Viewer, wishId: string): Promise<{ words: string }> {
      const { timeZone } = await observatories.site(viewer.observatoryId);
      return database.transaction(async (queries) => {
        const { rigId, words } = await keepForGood(queries, viewer, wishId, { timeZone, changes });
        for (const topic of ['projects', 'plan'] as const)
          await announce(queries, viewer.observatoryId, topic, [rigId]);
        return { words };
      });
    },

    async publish(
      viewer: Viewer,
      nightDate: string,
      { rigId, reason }: BodyOf<typeof publishPlan>,
    ): Promise<ResponseOf<typeof publishPlan>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const rig = rigNamed(observatory, rigId);
      if (night.nightDate < observatory.tonight)
        throw new ServiceError('NOT_POSSIBLE', 'This night is over; its plan stays as it was');
      const surveyed = await planner.survey(observatory, rig, night);
      if (surveyed.plan.blocks.length === 0)
        throw new ServiceError(
          'NOT_POSSIBLE',
          'There is nothing to publish: no goal can be exposed in what is left of this night',
        );
      const cutOffUtcMs = clockTimeInNight(night, observatory.cutOffClockMin, observatory.timeZone);
      return database.transaction((queries) =>
        publishVersion(queries, viewer, {
          night,
          surveyed,
          reason: reason ?? null,
          isFrozen: clock.nowUtcMs() >= cutOffUtcMs,
          timeZone: observatory.timeZone,
        }),
      );
    },
  };
}
