import { readDepth, setDepthWish } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { DepthService } from './service.ts';
import type { createDepthWishes } from './wishes.ts';

export async function depthRoutes(
  app: FastifyInstance,
  { service, wishes }: { service: DepthService; wishes: ReturnType<typeof createDepthWishes> },
): Promise<void> {
  serve(app, readDepth, async ({ viewer, params, query }) => service.read(viewer, params.id, query.of));
  serve(app, setDepthWish, async ({ viewer, params, body }) => wishes.set(viewer, params.id, params.filterId, body.wanted)); // prettier-ignore
}
