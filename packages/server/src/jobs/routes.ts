import { stopJob } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../plugins/operations.ts';
import type { JobService } from './service.ts';

export async function jobRoutes(app: FastifyInstance, { service }: { service: JobService }): Promise<void> {
  serve(app, stopJob, async ({ viewer, params }) => service.stop(viewer, params.id));
}
