// Projects, panels and goals: read with progress and tonight's chance, changed field by field.
import type {
  BodyOf,
  Chance,
  LimitRow,
  Project,
  ProjectRow,
  addGoal,
  addProject,
  copyProject,
  editGoal,
  editProject,
} from '@meridiem/contract';
import { panelName } from '@meridiem/contract';
import { acceptanceRate, DEFAULT_STEP_COSTS } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { placedRows } from '../../moving-target.ts';
import { asSeenBy, isVisible } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { GOAL_FIELDS } from '../../goal-fields.ts';
import { editableTable, editFields } from '../changes/index.ts';
import type { NightService } from '../nights/index.ts';
import { chanceOf } from '../nights/index.ts';
import { copyOf } from './copy.ts';
import { earlierOf, withRecipes } from './earlier.ts';
import { mixesOf } from './mixes.ts';
import type { ProjectParts, ScopedLimitRow } from './present.ts';
import { projectPage, projectRow } from './present.ts';
import { editableProject } from './editable.ts';
import type { GoalRecord, ProjectRecord } from './repository.ts';
import { takeBackGoals } from './take-back-goals.ts';
import { readPosition } from './typed-position.ts';
import { goalsOf, insertPanel, newestRevision, panelsOf, projectsOf } from './repository.ts';

export type ProjectService = ReturnType<typeof createProjectService>;

export interface ProjectServiceParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly nights: NightService;
}

/** States a member may give their own project; the rest is a coordinator's decision. */
const OWNER_STATES = ['draft', 'proposed', 'retired'];

export const PROJECT_FIELDS = editableTable('projects', 'Project', [
  'name',
  'state',
  'resting',
  'counting',
  'judging',
  'private',
  'grade',
  'panelOrder',
  'filterGroup',
  'stepGuide',
  'stepCentre',
  'stepFocus',
  'why',
]);

export function createProjectService({ database, changes, nights }: ProjectServiceParts) {
  changes.registerFields(PROJECT_FIELDS, 'owner');
  changes.registerFields(GOAL_FIELDS, 'owner');
  changes.register('goal_added', {
    by: 'owner',
    takeBack: (queries, _viewer, change) => takeBackGoals(queries, change),
  });
  async function chancesTonight(viewer: Viewer) {
    const survey = await nights.surveyTonight(viewer.observatoryId);
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

  async function changing<T>(viewer: Viewer, work: (queries: Queries) => Promise<T>): Promise<T> {
    return database.transaction(async (queries) => {
      const result = await work(queries);
      for (const topic of ['projects', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
      return result;
    });
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
      const costs = observatory.rigs.find((rig) => rig.id === project.rigId)?.costs ?? DEFAULT_STEP_COSTS;
      const night = { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs };
      const placed = placedRows(
        panels.map((panel) => ({ ...panel, orbit: project.orbit })),
        observatory,
        observatory.nowUtcMs,
      );
      return projectPage(partsOf(project, { panels: placed, goals, chances }), viewer, {
        costs,
        limits,
        night,
        mixes,
        earlier: withRecipes(earlier, observatory.recipes, project.rigId),
      });
    },

    add: (viewer: Viewer, body: BodyOf<typeof addProject>): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        const position = readPosition(body.raText, body.decText);
        const rig = await queries.one('SELECT 1 FROM rigs WHERE id = $1 AND observatory_id = $2', [
          body.rigId,
          viewer.observatoryId,
        ]);
        if (!rig) throw refused('rigId', 'Choose a rig');
        const place = { raDeg: position?.raDeg ?? null, decDeg: position?.decDeg ?? null };
        const target =
          (await shelvedTarget(queries, viewer, body.targetId)) ??
          (await queries.one<{ id: string }>(
            'INSERT INTO targets (observatory_id, name, ra_deg, dec_deg) VALUES ($1, $2, $3, $4) RETURNING id',
            [viewer.observatoryId, body.targetName, place.raDeg, place.decDeg],
          ));
        const project = await queries.one<{ id: string }>(
          'INSERT INTO projects (observatory_id, owner_id, rig_id, target_id, name) VALUES ($1, $2, $3, $4, $5) RETURNING id',
          [viewer.observatoryId, viewer.personId, body.rigId, target!.id, body.name],
        );
        if (body.composition)
          await queries.rows('UPDATE targets SET composition = $2 WHERE id = $1', [target!.id, body.composition]);
        const panels = body.panels ?? [{ ...place, positionAngleDeg: body.positionAngleDeg }];
        for (const [i, panel] of panels.entries())
          await insertPanel(queries, {
            observatoryId: viewer.observatoryId,
            projectId: project!.id,
            name: panelName(body.name, i + 1, panels.length),
            ...panel,
          });
        return project!;
      }),

    copy: (viewer: Viewer, projectId: string, body: BodyOf<typeof copyProject>): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        const [source] = await projectsOf(queries, viewer.observatoryId, projectId);
        if (!source || !isVisible(source, viewer)) throw notFound('project');
        return { id: await copyOf(queries, viewer, source, body) };
      }),

    edit: (
      viewer: Viewer,
      projectId: string,
      { version, ...fields }: BodyOf<typeof editProject>,
    ): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const project = await editableProject(queries, viewer, projectId);
        if (viewer.role !== 'coordinator') refuseCoordinatorFields(fields);
        if (fields.state === 'granted') await refuseUnpositioned(queries, projectId);
        const edited = await editFields(queries, {
          table: PROJECT_FIELDS,
          id: projectId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'projects',
            entityId: projectId,
            projectId,
            words: `${Object.keys(fields).join(', ')} of ${project.name}`,
            ...edited,
          });
        return { ok: true };
      }),

    addGoal: (viewer: Viewer, body: BodyOf<typeof addGoal>): Promise<{ ids: string[] }> =>
      changing(viewer, async (queries) => {
        const panel = await queries.one<{ projectId: string; rigId: string }>(
          'SELECT l.project_id AS "projectId", p.rig_id AS "rigId" FROM panels l JOIN projects p ON p.id = l.project_id WHERE l.id = $1 AND l.observatory_id = $2',
          [body.panelId, viewer.observatoryId],
        );
        if (!panel) throw notFound('panel');
        await editableProject(queries, viewer, panel.projectId);
        const recipe = await newestRevision(queries, body.recipeId);
        if (!recipe || recipe.rigId !== panel.rigId)
          throw refused('recipeId', 'Choose a recipe of this project’s rig; a goal needs a definite filter');
        const goals = await queries.rows<{ id: string }>(
          `INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, wanted, position)
           SELECT l.observatory_id, l.id, $2, $3, 1 + (SELECT coalesce(max(position), 0) FROM goals g WHERE g.panel_id = l.id)
           FROM framed_panels l WHERE l.project_id = $4 AND (l.id = $1 OR $5)
             AND NOT EXISTS (SELECT 1 FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id WHERE g.panel_id = l.id AND v.recipe_id = $6)
           RETURNING id`,
          [body.panelId, recipe.revisionId, body.wanted, panel.projectId, body.allPanels, body.recipeId],
        );
        const ids = goals.map((goal) => goal.id);
        if (ids.length === 0)
          throw refused('recipeId', `This panel has a goal with "${recipe.name}" already; change that one`);
        await changes.record(queries, viewer, {
          entity: 'goal_added',
          entityId: ids[0],
          projectId: panel.projectId,
          words: `new goal ${recipe.filterLetter}`,
          before: {},
          after: { ids },
        });
        return { ids };
      }),

    editGoal: (
      viewer: Viewer,
      goalId: string,
      { version, takeNewestRevision, ...fields }: BodyOf<typeof editGoal>,
    ): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const { project, recipeId, filterLetter } = await editableGoal(queries, viewer, goalId);
        const newest = takeNewestRevision ? await newestRevision(queries, recipeId) : null;
        const edited = await editFields(queries, {
          table: GOAL_FIELDS,
          id: goalId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields: newest ? { ...fields, recipeRevisionId: newest.revisionId } : fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'goals',
            entityId: goalId,
            projectId: project.id,
            words: `${Object.keys(fields).join(', ') || 'recipe'} of ${filterLetter}, ${project.name}`,
            ...edited,
          });
        return { ok: true };
      }),

    removeGoal: (viewer: Viewer, goalId: string): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        await editableGoal(queries, viewer, goalId);
        const used = await queries.one(
          `SELECT 1 FROM goals g WHERE g.id = $1 AND (EXISTS (SELECT 1 FROM attributions a WHERE a.goal_id = g.id) OR EXISTS (SELECT 1 FROM plan_runs r WHERE r.goal_id = g.id)
             OR EXISTS (SELECT 1 FROM plan_omissions o WHERE o.goal_id = g.id OR o.rival_goal_id = g.id) OR EXISTS (SELECT 1 FROM run_steps s WHERE s.goal_id = g.id))`,
          [goalId],
        );
        if (used)
          throw new ServiceError(
            'NOT_POSSIBLE',
            'This goal is in the ledger or in a published plan and stays there; switch it off instead',
          );
        await queries.rows('DELETE FROM goals WHERE id = $1', [goalId]);
        return { ok: true };
      }),
  };
}

async function shelvedTarget(
  queries: Queries,
  viewer: Viewer,
  targetId: string | undefined,
): Promise<{ id: string } | null> {
  if (targetId === undefined) return null;
  const target = await queries.one<{ id: string }>(
    'SELECT id FROM targets WHERE id = $1 AND observatory_id = $2 AND shelved',
    [targetId, viewer.observatoryId],
  );
  if (!target) throw notFound('target on the shelf');
  return target;
}

const limitRowsOf = (queries: Queries, observatoryId: string): Promise<ScopedLimitRow[]> =>
  queries.rows<LimitRow & { projectId: string | null; goalId: string | null }>(
    'SELECT project_id AS "projectId", goal_id AS "goalId", class, key, value FROM limit_values WHERE observatory_id = $1 ORDER BY id',
    [observatoryId],
  );

async function editableGoal(queries: Queries, viewer: Viewer, goalId: string) {
  const goal = await queries.one<{ projectId: string; recipeId: string; filterLetter: string }>(
    `SELECT l.project_id AS "projectId", r.id AS "recipeId", f.letter AS "filterLetter" FROM goals g JOIN panels l ON l.id = g.panel_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id WHERE g.id = $1`,
    [goalId],
  );
  if (!goal) throw notFound('goal');
  return { ...goal, project: await editableProject(queries, viewer, goal.projectId) };
}

function refuseCoordinatorFields(fields: { state?: string; grade?: number }): void {
  if (fields.grade !== undefined) throw notAllowed('The grade is the coordinator’s to give');
  if (fields.state !== undefined && !OWNER_STATES.includes(fields.state))
    throw notAllowed('Granting, queueing and returning are the coordinator’s');
}

/** A target without a position can't be granted: no position is not zero. */
async function refuseUnpositioned(queries: Queries, projectId: string): Promise<void> {
  const panels = await queries.rows<{ name: string; raDeg: number | null }>(
    `SELECT l.name, l.ra_deg AS "raDeg" FROM framed_panels l JOIN projects p ON p.id = l.project_id
     WHERE l.project_id = $1 AND NOT EXISTS (SELECT 1 FROM orbits o WHERE o.target_id = p.target_id)`,
    [projectId],
  );
  const open = panels.find((panel) => panel.raDeg === null);
  if (open) throw refused('state', `${open.name} has no position yet; give it coordinates before granting`);
}
