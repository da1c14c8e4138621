import { copyFrame, frameFile, framePicture, measureExposure, noteExposure, readExposure } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { FrameService } from './service.ts';

export async function frameRoutes(app: FastifyInstance, { service }: { service: FrameService }): Promise<void> {
  serve(app, readExposure, async ({ viewer, params }) => service.read(viewer, params.id));
  serve(app, framePicture, async ({ viewer, params, query, reply }) => {
    // As it was taken it stays; calibrated it may be better tomorrow.
    const keeps = (query.calibration ?? 'none') === 'none' ? 'max-age=604800, immutable' : 'max-age=60';
    reply.type('image/png').header('cache-control', `private, ${keeps}`);
    return service.picture(viewer, params.id, query);
  });
  serve(app, frameFile, async ({ viewer, params, reply }) => {
    const { name, sizeBytes, stream } = await service.file(viewer, params.id);
    reply
      .type('application/fits')
      .header('content-length', sizeBytes)
      .header('content-disposition', `attachment; filename="${name}"`);
    return stream as never;
  });
  serve(app, measureExposure, async ({ viewer, params }) => service.measureAgain(viewer, params.id));
  serve(app, copyFrame, async ({ params, body }) => service.copy(params.id, body));
  serve(app, noteExposure, async ({ viewer, params, body }) => service.note(viewer, params.id, body.words));
}
