import {
  addSharePeriod,
  answerSwap,
  editFairness,
  editSharePeriod,
  giveHours,
  proposeSwap,
  readStanding,
  removeSharePeriod,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ShareService } from './service.ts';

export async function shareRoutes(app: FastifyInstance, { service }: { service: ShareService }): Promise<void> {
  serve(app, readStanding, async ({ viewer }) => service.read(viewer));
  serve(app, addSharePeriod, async ({ viewer, body }) => service.addPeriod(viewer, body));
  serve(app, editSharePeriod, async ({ viewer, params, body }) => service.editPeriod(viewer, params.id, body));
  serve(app, removeSharePeriod, async ({ viewer, params }) => service.removePeriod(viewer, params.id));
  serve(app, editFairness, async ({ viewer, body }) => service.editFairness(viewer, body));
  serve(app, giveHours, async ({ viewer, body }) => service.give(viewer, body));
  serve(app, proposeSwap, async ({ viewer, body }) => service.propose(viewer, body));
  serve(app, answerSwap, async ({ viewer, params, body }) => service.answer(viewer, params.id, body));
}
