// One project's nights to come: how many it still needs, what its limits cost, how many exposures fit.
import type { BodyOf, LimitEffect, previewLimit, readFits, readProjectOutlook, ResponseOf } from '@meridiem/contract';
import type { NightRequest, ObservingNight, Outlook } from '@meridiem/core';
import { exposureCycleSec, exposuresThatFit, nightDatePlus, observingNight, panelChangeSec } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Answer, AskedFor, JobService } from '../../jobs/service.ts';
import { placedInNight } from '../../moving-target.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import type { GoalRow } from './goals-repository.ts';
import { goalRowsOf, limitsOf, projectOfGoal } from './goals-repository.ts';
import { hashOf, nightRequest } from './request.ts';
import type { RigPlanner } from './rig-planner.ts';

/** Nights ahead that a project's outlook plans, and how hard it tries on each: a forecast, not a plan. */
const OUTLOOK_NIGHTS = 60;
/** Nights over which a limit's cost is shown: about a lunation. */
const LIMIT_NIGHTS = 30;
const OUTLOOK_OPTIONS = { seed: 1, iterations: 60 };

export interface ProjectNightParts {
  readonly database: Database;
  readonly observatory: ObservatoryService;
  readonly planner: RigPlanner;
  readonly jobs: JobService;
}

export function createProjectNights({ database, observatory: observatories, planner, jobs }: ProjectNightParts) {
  /** Goals of a project for nights to come, as if it were granted: what it could use, whatever its state.
   * What moves is taken where it stands tonight: an outlook, not an ephemeris. */
  async function projectRequest(
    viewer: Viewer,
    projectId: string,
    { nights: ahead, which }: { nights: number; which: (row: GoalRow) => boolean },
  ): Promise<{ request: NightRequest; nights: ObservingNight[]; all: GoalRow[] }> {
    const observatory = await observatories.read(viewer.observatoryId);
    const project = await database.models.Project.findOne({
      where: { id: projectId, observatoryId: viewer.observatoryId },
    });
    const rig = observatory.rigs.find((candidate) => candidate.id === project?.rigId);
    if (!project || !rig || !isVisible(project, viewer)) throw notFound('project');
    const all = (await goalRowsOf(database, rig.id)).filter((row) => row.projectId === projectId);
    const rows = all.filter(which).map((row) => ({ ...row, state: 'granted', resting: false, envelope: null }));
    const nights = Array.from({ length: ahead }, (_, i) =>
      observingNight(nightDatePlus(observatory.tonight, i), observatory.timeZone),
    );
    const request = nightRequest({
      observatory,
      rig,
      night: nights[0],
      fromUtcMs: null,
      rows: placedInNight(rows, observatory, nights[0]),
      limits: await limitsOf(database, observatory.id),
    });
    return { request, nights, all };
  }

  /** The request of an outlook; a project not granted yet is looked at as if it were. */
  async function outlookAsked(viewer: Viewer, projectId: string): Promise<AskedFor & { openEnded: number }> {
    const { request, nights, all } = await projectRequest(viewer, projectId, {
      nights: OUTLOOK_NIGHTS,
      which: ({ wanted }) => wanted !== null,
    });
    return {
      kind: 'outlook',
      requestHash: hashOf(request),
      request: { request, nights, options: OUTLOOK_OPTIONS },
      openEnded: all.filter(({ wanted, enabled }) => wanted === null && enabled).length,
    };
  }

  return {
    /** Nights that a project alone would still need, where somebody has asked for them. */
    async outlook(viewer: Viewer, projectId: string): Promise<ResponseOf<typeof readProjectOutlook>> {
      const { openEnded, ...asked } = await outlookAsked(viewer, projectId);
      return shownOutlook(await jobs.read<Outlook>(viewer, asked), openEnded);
    },

    askOutlook: async (viewer: Viewer, projectId: string): Promise<ResponseOf<typeof readProjectOutlook>> => {
      const { openEnded, ...asked } = await outlookAsked(viewer, projectId);
      return shownOutlook(await jobs.ask<Outlook>(viewer, asked), openEnded);
    },

    /** What a limit of a project costs one of its goals of a class, tonight and in the coming nights. */
    async limitEffect(
      viewer: Viewer,
      projectId: string,
      { class: ofClass, key, proposed }: BodyOf<typeof previewLimit>,
    ): Promise<LimitEffect> {
      const { request, nights, all } = await projectRequest(viewer, projectId, {
        nights: LIMIT_NIGHTS,
        which: ({ filterClass }) => filterClass === ofClass,
      });
      const [goal] = request.goals;
      if (!goal) throw new ServiceError('NOT_POSSIBLE', `This project has no ${ofClass} goal to look at`);
      const row = all.find(({ goalId }) => goalId === goal.id)!;
      const cost = await planner.limit({ request: { ...request, goals: [goal] }, nights, key, proposed });
      return {
        goalWords: `${row.panelName}, ${row.filterLetter}`,
        nights: [...cost.nights],
        windows: [...cost.windows],
        windowsWithout: [...cost.windowsWithout],
        windowsProposed: [...cost.windowsProposed],
      };
    },

    /** How many exposures of a goal fit tonight and in the coming nights. */
    async fits(viewer: Viewer, goalId: string, ahead: number): Promise<ResponseOf<typeof readFits>> {
      const projectId = await projectOfGoal(database, viewer.observatoryId, goalId);
      if (projectId === null) throw notFound('goal');
      const { request, nights } = await projectRequest(viewer, projectId, {
        nights: ahead,
        which: (row) => row.goalId === goalId,
      });
      const usable = (await planner.usable({ request, nights })).map(([sec]) => sec);
      const { settings, panelId } = request.goals[0];
      const { position } = request.panels.find(({ id }) => id === panelId)!;
      const { costs } = request.rig;
      const cycleSec = exposureCycleSec(costs, settings);
      const changeSec = position ? panelChangeSec(costs, null, position) : 0;
      const times = { cycleSec, exposureSec: settings.exposureSec, changeSec };
      return {
        tonight: exposuresThatFit(usable.slice(0, 1), times),
        nights: exposuresThatFit(usable, times),
        usableHours: usable.reduce((sum, sec) => sum + sec, 0) / 3600,
        cycleSec,
      };
    },
  };
}

const shownOutlook = ({ result, job }: Answer<Outlook>, openEnded: number): ResponseOf<typeof readProjectOutlook> => ({
  outlook: result && { ...result, nights: [...result.nights], lookedAheadNights: OUTLOOK_NIGHTS, openEnded },
  job,
});
