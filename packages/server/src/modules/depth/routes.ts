import { readDepth } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { DepthService } from './service.ts';

export async function depthRoutes(app: FastifyInstance, { service }: { service: DepthService }): Promise<void> {
  serve(app, readDepth, async ({ viewer, params, query }) => service.read(viewer, params.id, query.of));
}
