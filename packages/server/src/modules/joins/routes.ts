import { answerJoin, offerJoin, readProjectJoins } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { JoinService } from './service.ts';

export async function joinRoutes(app: FastifyInstance, { service }: { service: JoinService }): Promise<void> {
  serve(app, readProjectJoins, async ({ viewer, params }) => service.ofProject(viewer, params.id));
  serve(app, offerJoin, async ({ viewer, params, body }) => service.offer(viewer, params.id, body));
  serve(app, answerJoin, async ({ viewer, params, body }) => service.answer(viewer, params.id, body));
}
