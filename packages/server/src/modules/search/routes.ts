import { search } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { SearchService } from './service.ts';

export async function searchRoutes(app: FastifyInstance, { service }: { service: SearchService }): Promise<void> {
  serve(app, search, async ({ viewer, query }) => ({ hits: await service.search(viewer, query.text) }));
}
