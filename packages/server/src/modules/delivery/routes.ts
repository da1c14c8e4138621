import { deliveryArchive, readDelivery } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import { byteRange } from './byte-range.ts';
import type { DeliveryService } from './service.ts';

export async function deliveryRoutes(app: FastifyInstance, { service }: { service: DeliveryService }): Promise<void> {
  serve(app, readDelivery, async ({ viewer, params, query }) => service.read(viewer, params.id, query));
  serve(app, deliveryArchive, async ({ viewer, params, query, request, reply }) => {
    const archive = await service.archive(viewer, params.id, query);
    const { name, sizeBytes, tag } = archive;
    const range = byteRange(request.headers.range, request.headers['if-range'] as string | undefined, archive);
    reply
      .type('application/x-tar')
      .header('accept-ranges', 'bytes')
      .header('etag', `"${tag}"`)
      .header('content-disposition', `attachment; filename="${name}"`);
    if (range === 'beyond') {
      reply.code(416).header('content-range', `bytes */${sizeBytes}`);
      return new Uint8Array();
    }
    const { start, end } = range ?? { start: 0, end: sizeBytes };
    if (range) reply.code(206).header('content-range', `bytes ${start}-${end - 1}/${sizeBytes}`);
    reply.header('content-length', end - start);
    return archive.read({ start, end }) as never;
  });
}
