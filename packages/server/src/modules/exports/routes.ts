import { exportGoals, exportLedger, exportTargets } from '@meridiem/contract';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ExportedTable, ExportService } from './service.ts';

export async function exportRoutes(app: FastifyInstance, { service }: { service: ExportService }): Promise<void> {
  serve(app, exportLedger, async ({ viewer, query, reply }) => asFile(reply, await service.ledger(viewer, query)));
  serve(app, exportTargets, async ({ viewer, query, reply }) =>
    asFile(reply, await service.targets(viewer, query.format)),
  );
  serve(app, exportGoals, async ({ viewer, query, reply }) => asFile(reply, await service.goals(viewer, query)));
}

function asFile(reply: FastifyReply, { text, contentType, fileName }: ExportedTable): string {
  reply.type(contentType).header('content-disposition', `attachment; filename="${fileName}"`);
  return text;
}
