import {
  addClosure,
  addRecipe,
  addRig,
  checkSunset,
  editClimateMonth,
  editFilter,
  editObservatory,
  previewRig,
  readObservatory,
  removeClosure,
  replaceHorizon,
  reviseRecipe,
  reviseRig,
  setRigSteps,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ObservatoryService } from './service.ts';

export async function observatoryRoutes(
  app: FastifyInstance,
  { service }: { service: ObservatoryService },
): Promise<void> {
  serve(app, readObservatory, async ({ viewer }) => service.read(viewer.observatoryId));
  serve(app, checkSunset, async ({ query }) => service.sunset(query));
  serve(app, editObservatory, async ({ viewer, body }) => service.edit(viewer, body));
  serve(app, editClimateMonth, async ({ viewer, params, body }) => service.editClimateMonth(viewer, params.id, body));
  serve(app, addClosure, async ({ viewer, body }) => service.addClosure(viewer, body));
  serve(app, removeClosure, async ({ viewer, params }) => service.removeClosure(viewer, params.id));
  serve(app, replaceHorizon, async ({ viewer, body }) => service.replaceHorizon(viewer, body.text, body.asSeen));
  serve(app, addRig, async ({ viewer, body }) => service.addRig(viewer, body));
  serve(app, previewRig, async ({ viewer, params, body }) => ({
    effects: await service.effects(viewer, params.id, body),
  }));
  serve(app, reviseRig, async ({ viewer, params, body }) => service.reviseRig(viewer, params.id, body));
  serve(app, setRigSteps, async ({ viewer, params, body }) => service.setSteps(viewer, params.id, body.steps));
  serve(app, editFilter, async ({ viewer, params, body }) => service.editFilter(viewer, params.id, body));
  serve(app, addRecipe, async ({ viewer, body }) => service.addRecipe(viewer, body));
  serve(app, reviseRecipe, async ({ viewer, params, body }) => service.reviseRecipe(viewer, params.id, body));
}
