import {
  addImportFiles,
  addImportHashes,
  applyImport,
  beginImport,
  discardImport,
  listImports,
  matchByHand,
  readImport,
  readImportWriting,
  teachFilterName,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { Applying } from './applying.ts';
import type { ImportService } from './service.ts';

export async function importRoutes(
  app: FastifyInstance,
  { service, applying }: { service: ImportService; applying: Applying },
): Promise<void> {
  serve(app, listImports, async ({ viewer }) => ({ imports: await service.list(viewer) }));
  serve(app, beginImport, async ({ viewer, body }) => service.begin(viewer, body.source));
  serve(app, addImportFiles, async ({ viewer, params, body }) => service.add(viewer, params.id, body));
  serve(app, addImportHashes, async ({ viewer, params, body }) => service.addHashes(viewer, params.id, body));
  serve(app, readImport, async ({ viewer, params }) => service.preview(viewer, params.id));
  serve(app, matchByHand, async ({ viewer, params, body }) => service.byHand(viewer, params.id, body));
  serve(app, teachFilterName, async ({ viewer, body }) => service.teachFilterName(viewer, body));
  serve(app, applyImport, async ({ viewer, params }) => applying.apply(viewer, params.id));
  serve(app, readImportWriting, async ({ viewer, params }) => applying.writing(viewer, params.id));
  serve(app, discardImport, async ({ viewer, params }) => service.discard(viewer, params.id));
}
