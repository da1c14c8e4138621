import { addVisit, addVisitJob, editVisit, readMeasuredAngles, readVisits, settleVisitJob } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { VisitService } from './service.ts';

export async function visitRoutes(app: FastifyInstance, { service }: { service: VisitService }): Promise<void> {
  serve(app, readVisits, async ({ viewer }) => service.read(viewer));
  serve(app, addVisit, async ({ viewer, body }) => service.add(viewer, body));
  serve(app, editVisit, async ({ viewer, params, body }) => service.edit(viewer, params.id, body));
  serve(app, addVisitJob, async ({ viewer, params, body }) => service.addJob(viewer, params.id, body));
  serve(app, settleVisitJob, async ({ viewer, params, body }) => service.settle(viewer, params.id, body));
  serve(app, readMeasuredAngles, async ({ viewer, params }) => service.measuredAngles(viewer, params.id));
}
