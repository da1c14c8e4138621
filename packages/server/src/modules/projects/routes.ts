import {
  addGoal,
  addProject,
  copyProject,
  editGoal,
  editProject,
  listProjects,
  readProject,
  removeGoal,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ProjectService } from './service.ts';

export async function projectRoutes(app: FastifyInstance, { service }: { service: ProjectService }): Promise<void> {
  serve(app, listProjects, async ({ viewer }) => ({ projects: await service.list(viewer) }));
  serve(app, readProject, async ({ viewer, params }) => service.read(viewer, params.id));
  serve(app, addProject, async ({ viewer, body }) => service.add(viewer, body));
  serve(app, copyProject, async ({ viewer, params, body }) => service.copy(viewer, params.id, body));
  serve(app, editProject, async ({ viewer, params, body }) => service.edit(viewer, params.id, body));
  serve(app, addGoal, async ({ viewer, body }) => service.addGoal(viewer, body));
  serve(app, editGoal, async ({ viewer, params, body }) => service.editGoal(viewer, params.id, body));
  serve(app, removeGoal, async ({ viewer, params }) => service.removeGoal(viewer, params.id));
}
