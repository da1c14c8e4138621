// What nights brought: by project, over a period, and why exposures were lost. Read from the tallies; nothing is stored beside them.
import type {
  ProjectNight,
  QueryOf,
  ResponseOf,
  ReviewRow,
  readGoalHistory,
  readReasons,
  readReview,
} from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import {
  seenProject,
  tallyByNight,
  goalBeginning,
  wantedChanges,
  lightOfGoal,
  tallyByProject,
  rejectedByReason,
} from './progress-repository.ts';

export type ProgressService = ReturnType<typeof createProgressService>;

export function createProgressService({ database }: { database: Database }) {
  return {
    async nightsOf(viewer: Viewer, projectId: string): Promise<ProjectNight[]> {
      const project = await seenProject(database, viewer, projectId);
      if (!project) throw notFound('project');
      const rows = await tallyByNight(database, projectId);
      const dates = [...new Set(rows.map(({ nightDate }) => nightDate))];
      return dates.map((nightDate, i) => ({
        number: i + 1,
        nightDate,
        filters: rows.filter((row) => row.nightDate === nightDate).map(({ nightDate: _date, ...filter }) => filter),
      }));
    },

    /** The wish as it was first and as each change left it; from the history of changes, nothing is stored beside it. */
    async wishesOf(viewer: Viewer, goalId: string): Promise<ResponseOf<typeof readGoalHistory>> {
      const goal = await goalBeginning(database, viewer, goalId);
      if (!goal) throw notFound('goal');
      const steps = await wantedChanges(database, goalId);
      const first = {
        at: goal.createdUtcMs,
        who: goal.who,
        wanted: steps.length > 0 ? steps[0].before : goal.wanted,
        before: null,
        why: null,
        isFirst: true,
      };
      const light = await lightOfGoal(database, goalId);
      return { light: light!, wishes: [first, ...steps.map((step) => ({ ...step, isFirst: false }))] };
    },

    async review(viewer: Viewer, { from, to }: QueryOf<typeof readReview>): Promise<ReviewRow[]> {
      if (from > to) throw refused('to', 'The last night lies before the first');
      return tallyByProject(database, viewer, from, to);
    },

    reasons: (viewer: Viewer, query: QueryOf<typeof readReasons>): Promise<{ reason: string; count: number }[]> =>
      rejectedByReason(database, viewer, query),
  };
}
