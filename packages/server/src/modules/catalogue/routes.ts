import { catalogueAround, catalogueObjects, searchCatalogue } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { CatalogueService } from './service.ts';

export async function catalogueRoutes(app: FastifyInstance, { service }: { service: CatalogueService }): Promise<void> {
  serve(app, searchCatalogue, async ({ query, viewer }) => service.search(query.q, viewer.observatoryId));
  serve(app, catalogueObjects, async ({ reply }) => {
    reply.header('cache-control', 'private, max-age=86400');
    return service.objects();
  });
  serve(app, catalogueAround, async ({ query }) => service.around(query, query.radiusDeg));
}
