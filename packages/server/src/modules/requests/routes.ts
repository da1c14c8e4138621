import {
  askForHours,
  grantRequest,
  listRequests,
  queueRequest,
  readProjectRequests,
  returnRequest,
  withdrawRequest,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { RequestService } from './service.ts';

export async function requestRoutes(app: FastifyInstance, { service }: { service: RequestService }): Promise<void> {
  serve(app, listRequests, async ({ viewer }) => ({ requests: await service.waiting(viewer) }));
  serve(app, readProjectRequests, async ({ viewer, params }) => service.ofProject(viewer, params.id));
  serve(app, askForHours, async ({ viewer, params, body }) => service.ask(viewer, params.id, body));
  serve(app, withdrawRequest, async ({ viewer, params }) => service.withdraw(viewer, params.id));
  serve(app, grantRequest, async ({ viewer, params, body }) => service.grant(viewer, params.id, body));
  serve(app, returnRequest, async ({ viewer, params, body }) => service.return(viewer, params.id, body));
  serve(app, queueRequest, async ({ viewer, params, body }) => service.queue(viewer, params.id, body));
}
