import { editPanel, framedAngles, previewReframing, promoteTryOut, reframe } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { FramingService } from './service.ts';

export async function framingRoutes(app: FastifyInstance, { service }: { service: FramingService }): Promise<void> {
  serve(app, previewReframing, async ({ viewer, params, body }) => service.preview(viewer, params.id, body));
  serve(app, promoteTryOut, async ({ viewer, body }) => service.promote(viewer, body));
  serve(app, framedAngles, async ({ viewer, params }) => service.angles(viewer, params.id));
  serve(app, editPanel, async ({ viewer, params, body }) => service.editPanel(viewer, params.id, body));
  serve(app, reframe, async ({ viewer, params, body }) => service.reframe(viewer, params.id, body));
}
