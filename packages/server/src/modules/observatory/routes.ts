import {
  addCameraMode,
  addClosure,
  addFilter,
  addRecipe,
  addRig,
  checkSunset,
  copyRig,
  editClimateMonth,
  editFilter,
  editObservatory,
  previewRig,
  readGearChanges,
  readObservatory,
  removeClosure,
  renameRecipe,
  renameRig,
  replaceHorizon,
  restoreRetired,
  retireCameraMode,
  retireFilter,
  retireRecipe,
  retireRig,
  reviseCameraMode,
  reviseRecipe,
  reviseRig,
  setLearnsTimes,
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
  serve(app, readGearChanges, async ({ viewer, params }) => service.gearChanges(viewer, params.id));
  serve(app, reviseRig, async ({ viewer, params, body }) => service.reviseRig(viewer, params.id, body));
  serve(app, setLearnsTimes, async ({ viewer, params, body }) =>
    service.setLearnsTimes(viewer, params.id, body.learnsTimes),
  );
  serve(app, setRigSteps, async ({ viewer, params, body }) => service.setSteps(viewer, params.id, body.steps));
  serve(app, copyRig, async ({ viewer, params, body }) => service.copyRig(viewer, params.id, body));
  serve(app, renameRig, async ({ viewer, params, body }) => service.renameRig(viewer, params.id, body.name));
  serve(app, retireRig, async ({ viewer, params }) => service.retireRig(viewer, params.id));
  serve(app, restoreRetired, async ({ viewer, params }) => service.restore(viewer, params.id));
  serve(app, addCameraMode, async ({ viewer, params, body }) => service.addCameraMode(viewer, params.id, body));
  serve(app, reviseCameraMode, async ({ viewer, params, body }) => service.reviseCameraMode(viewer, params.id, body));
  serve(app, retireCameraMode, async ({ viewer, params }) => service.retireCameraMode(viewer, params.id));
  serve(app, addFilter, async ({ viewer, body }) => service.addFilter(viewer, body));
  serve(app, retireFilter, async ({ viewer, params }) => service.retireFilter(viewer, params.id));
  serve(app, editFilter, async ({ viewer, params, body }) => service.editFilter(viewer, params.id, body));
  serve(app, addRecipe, async ({ viewer, body }) => service.addRecipe(viewer, body));
  serve(app, reviseRecipe, async ({ viewer, params, body }) => service.reviseRecipe(viewer, params.id, body));
  serve(app, renameRecipe, async ({ viewer, params, body }) => service.renameRecipe(viewer, params.id, body.name));
  serve(app, retireRecipe, async ({ viewer, params }) => service.retireRecipe(viewer, params.id));
}
