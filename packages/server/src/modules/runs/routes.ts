import {
  beginStep,
  claimRun,
  endRun,
  endTestShot,
  finishStep,
  keepRun,
  orderRun,
  orderTestShot,
  playNight,
  readAlarms,
  readCalibrationToTake,
  readStepTimes,
  readRunActions,
  readWatch,
  reportActions,
  reportCalibration,
  rehearseNight,
  replanRun,
  stopRun,
  testShotPicture,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { RunService } from './service.ts';

export async function runRoutes(app: FastifyInstance, { service }: { service: RunService }): Promise<void> {
  serve(app, playNight, async ({ viewer, params, body }) => service.play(viewer, params.nightDate, body));
  serve(app, rehearseNight, async ({ viewer, params, body }) => service.rehearse(viewer, params.nightDate, body));
  serve(app, stopRun, async ({ viewer, params }) => service.stop(viewer, params.id));
  serve(app, claimRun, async ({ body }) => ({ run: await service.claim(body) }));
  serve(app, beginStep, async ({ params, body }) => service.begin(params.id, body));
  serve(app, finishStep, async ({ params, body }) => service.finish(params.id, body));
  serve(app, keepRun, async ({ params, body }) => service.keep(params.id, body));
  serve(app, replanRun, async ({ params, body }) => service.replan(params.id, body));
  serve(app, orderRun, async ({ viewer, params, body }) => service.order(viewer, params.id, body.kind));
  serve(app, orderTestShot, async ({ viewer, params, body }) => service.orderTestShot(viewer, params.id, body));
  serve(app, testShotPicture, async ({ viewer, params, reply }) => {
    reply.type('image/png').header('cache-control', 'private, max-age=604800, immutable');
    return service.testShotPicture(viewer, params);
  });
  serve(app, endTestShot, async ({ params, body }) => service.endTestShot(params.id, body));
  serve(app, reportActions, async ({ params, body }) => service.act(params.id, body));
  serve(app, readStepTimes, async ({ viewer, params }) => service.stepTimes(viewer, params.id));
  serve(app, readWatch, async ({ viewer, params, query }) =>
    service.watch(viewer, params.nightDate, query.rig ?? null),
  );
  serve(app, readAlarms, async ({ viewer }) => service.alarms(viewer));
  serve(app, readRunActions, async ({ viewer, params }) => service.actions(viewer, params.id));
  serve(app, readCalibrationToTake, async ({ params, body }) => service.calibrationToTake(params.id, body));
  serve(app, reportCalibration, async ({ params, body }) => service.recordCalibration(params.id, body));
  serve(app, endRun, async ({ params, body }) => service.end(params.id, body));
}
