import { listChanges, undoLast } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ChangeService } from './service.ts';

export async function changeRoutes(app: FastifyInstance, { service }: { service: ChangeService }): Promise<void> {
  serve(app, undoLast, async ({ viewer }) => service.undoLast(viewer));
  serve(app, listChanges, async ({ query, viewer }) => ({
    changes: await service.list(viewer, query.project ?? null),
  }));
}
