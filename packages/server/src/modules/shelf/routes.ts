import { addTheme, editTheme, readShelf, removeTheme, shelve, shelveOrbits, unshelve } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ShelfService } from './service.ts';

export async function shelfRoutes(app: FastifyInstance, { service }: { service: ShelfService }): Promise<void> {
  serve(app, readShelf, async ({ viewer }) => service.read(viewer));
  serve(app, shelve, async ({ viewer, body }) => service.shelve(viewer, body));
  serve(app, unshelve, async ({ viewer, params }) => service.unshelve(viewer, params.id));
  serve(app, shelveOrbits, async ({ viewer, body }) => service.shelveOrbits(viewer, body));
  serve(app, addTheme, async ({ viewer, body }) => service.addTheme(viewer, body));
  serve(app, editTheme, async ({ viewer, params, body }) => service.editTheme(viewer, params.id, body));
  serve(app, removeTheme, async ({ viewer, params }) => service.removeTheme(viewer, params.id));
}
