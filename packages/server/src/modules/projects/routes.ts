import {
  addGoal,
  addProject,
  copyProject,
  editGoal,
  editProject,
  listGoalSets,
  listProjects,
  putGoals,
  readProject,
  removeGoal,
  removeGoalSet,
  saveGoalSet,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { GoalSetService } from './goal-sets.ts';
import type { ProjectService } from './service.ts';

export async function projectRoutes(
  app: FastifyInstance,
  { service, sets }: { service: ProjectService; sets: GoalSetService },
): Promise<void> {
  serve(app, listGoalSets, async ({ viewer }) => ({ sets: await sets.list(viewer) }));
  serve(app, saveGoalSet, async ({ viewer, body }) => sets.save(viewer, body));
  serve(app, removeGoalSet, async ({ viewer, params }) => sets.remove(viewer, params.id));
  serve(app, putGoals, async ({ viewer, params, body }) => sets.put(viewer, params.id, body));
  serve(app, listProjects, async ({ viewer }) => ({ projects: await service.list(viewer) }), { isKept: true });
  serve(app, readProject, async ({ viewer, params }) => service.read(viewer, params.id), { isKept: true });
  serve(app, addProject, async ({ viewer, body }) => service.add(viewer, body));
  serve(app, copyProject, async ({ viewer, params, body }) => service.copy(viewer, params.id, body));
  serve(app, editProject, async ({ viewer, params, body }) => service.edit(viewer, params.id, body));
  serve(app, addGoal, async ({ viewer, body }) => service.addGoal(viewer, body));
  serve(app, editGoal, async ({ viewer, params, body }) => service.editGoal(viewer, params.id, body));
  serve(app, removeGoal, async ({ viewer, params }) => service.removeGoal(viewer, params.id));
}
