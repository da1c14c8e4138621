import {
  clearSurveyPictures,
  editSurveySource,
  readSurveySource,
  surveyThumbnail,
  surveyTile,
} from '@meridiem/contract';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { SurveyService } from './service.ts';
import type { Picture } from './source.ts';

export async function surveyRoutes(app: FastifyInstance, { service }: { service: SurveyService }): Promise<void> {
  serve(app, readSurveySource, async ({ viewer }) => service.source(viewer));
  serve(app, editSurveySource, async ({ viewer, body }) => service.edit(viewer, body));
  serve(app, clearSurveyPictures, async () => service.clear());
  serve(app, surveyTile, async ({ viewer, params, reply }) => asImage(reply, await service.tile(viewer, params)));
  serve(app, surveyThumbnail, async ({ viewer, query, reply }) =>
    asImage(reply, await service.thumbnail(viewer, query)),
  );
}

/** A picture of a place does not change; a week later it may be asked for again. */
function asImage(reply: FastifyReply, { bytes, type }: Picture): Buffer {
  reply.type(type).header('cache-control', 'private, max-age=604800, immutable');
  return bytes;
}
