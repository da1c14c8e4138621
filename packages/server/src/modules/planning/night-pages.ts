// A night's plans as they are shown: working, published, without hand changes; and every project's standing in it.
import type { NightPage, NightSky, Observatory, readNightStandings, ResponseOf, Rig } from '@meridiem/contract';
import { shownWishes } from '@meridiem/contract';
import type { ObservingNight } from '@meridiem/core';
import { clockTimeInNight, observingNight } from '@meridiem/core';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { asSeenBy } from '../../privacy.ts';
import { keptNightSky, nightNamed } from '../nights/index.ts';
import { currentRunOf } from '../runs/index.ts';
import { exposuresOfNight, takenOfNight } from './goals-repository.ts';
import { nightWish } from './hand-changes.ts';
import { publishedPlanOf, versionsOf } from './published-repository.ts';
import { rigPlan } from './rig-plan.ts';
import type { SurveyedRig } from './rig-planner.ts';
import type { PlanningUse } from './service.ts';
import { standingsOf } from './standings.ts';

/** Which plan to show: as published where there is one (null), the working one, the one without hand changes, or a version. */
type PlanWish = 'working' | 'published' | 'automatic' | `v${number}` | null;

const seqOf = (wish: PlanWish): number | null => (wish?.startsWith('v') ? Number(wish.slice(1)) : null);

export function createNightPages({ database, clock, observatory: observatories, planner }: PlanningUse) {
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

  return {
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
        preparationMin: observatory.preparationMin,
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
  };
}
