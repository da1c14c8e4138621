import { setLimit } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { LimitService } from './service.ts';

export async function limitRoutes(app: FastifyInstance, { service }: { service: LimitService }): Promise<void> {
  serve(app, setLimit, async ({ viewer, body }) => service.set(viewer, body));
}
