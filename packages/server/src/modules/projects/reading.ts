// Projects as one reads them: with progress and tonight's chance.
import type { Chance, Project, ProjectRow } from '@meridiem/contract';
import { acceptanceRate, DEFAULT_STEP_COSTS } from '@meridiem/core';
import { notFound } from '../../errors.ts';
import { placedRows } from '../../moving-target.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { asSeenBy, isVisible } from '../../privacy.ts';
import { chanceOf } from '../planning/index.ts';
import { withRecipes } from './earlier.ts';
import { mixesOf } from './mixes.ts';
import type { ProjectParts } from './present.ts';
import { projectPage, projectRow } from './present.ts';
import type { GoalRecord, ProjectRecord } from './repository.ts';
import { earlierOf, goalsOf, limitRowsOf, panelsOf, projectsOf } from './repository.ts';
import type { ProjectServiceParts } from './service.ts';

export function createProjectReading({ database, planning }: Pick<ProjectServiceParts, 'database' | 'planning'>) {
  async function chancesTonight(viewer: Viewer) {
    const survey = await planning.surveyTonight(viewer.observatoryId);
    const chances = new Map<string, Chance>();
    for (const { rows: all, plan, goals } of survey.rigs) {
      const rows = all.map(asSeenBy(viewer));
      const nameOf = (goalId: string): string => {
        const row = rows.find((candidate) => candidate.goalId === goalId);
        return row ? `${row.projectName}, ${row.filterLetter}` : 'another goal';
      };
      for (const row of rows) chances.set(row.goalId, chanceOf(row, plan, goals.get(row.goalId), nameOf));
    }
    return { ...survey, chances };
  }

  return {
    async list(viewer: Viewer): Promise<ProjectRow[]> {
      const [{ chances }, projects, panels, goals] = await Promise.all([
        chancesTonight(viewer),
        projectsOf(database, viewer.observatoryId),
        panelsOf(database, viewer.observatoryId),
        goalsOf(database, viewer.observatoryId),
      ]);
      return projects
        .filter((project) => isVisible(project, viewer))
        .map((project) => projectRow(partsOf(project, { panels, goals, chances }), viewer));
    },

    async read(viewer: Viewer, projectId: string): Promise<Project> {
      const [project] = await projectsOf(database, viewer.observatoryId, projectId);
      if (!project || !isVisible(project, viewer)) throw notFound('project');
      const [{ chances, observatory, sky }, panels, goals, limits, mixes, earlier] = await Promise.all([
        chancesTonight(viewer),
        panelsOf(database, viewer.observatoryId, projectId),
        goalsOf(database, viewer.observatoryId, projectId),
        limitRowsOf(database, viewer.observatoryId),
        mixesOf(database, projectId),
        earlierOf(database, projectId),
      ]);
      const rig = observatory.rigs.find(({ id }) => id === project.rigId);
      const costs = rig?.costs ?? DEFAULT_STEP_COSTS;
      const night = { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs };
      const placed = placedRows(
        panels.map((panel) => ({ ...panel, orbit: project.orbit })),
        observatory,
        observatory.nowUtcMs,
      );
      return projectPage(partsOf(project, { panels: placed, goals, chances }), viewer, {
        costs,
        sensor: rig ?? null,
        limits,
        night,
        mixes,
        earlier: withRecipes(earlier, observatory.recipes, project.rigId),
      });
    },
  };
}

const partsOf = (
  project: ProjectRecord,
  all: { panels: ProjectParts['panels']; goals: readonly GoalRecord[]; chances: ProjectParts['chances'] },
): ProjectParts => {
  const panels = all.panels.filter((panel) => 'projectId' in panel && panel.projectId === project.id);
  const goals = all.goals.filter((goal) => goal.projectId === project.id);
  const total = (key: 'accepted' | 'rejected'): number => goals.reduce((sum, goal) => sum + goal[key], 0);
  return {
    project,
    panels,
    goals,
    chances: all.chances,
    acceptanceRate: acceptanceRate(total('accepted'), total('rejected')),
  };
};
