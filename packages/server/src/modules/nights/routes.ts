import { readNightSky } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { NightService } from './service.ts';

export async function nightRoutes(app: FastifyInstance, { service }: { service: NightService }): Promise<void> {
  serve(app, readNightSky, async ({ viewer, params }) => service.sky(viewer.observatoryId, params.nightDate));
}
