import { judgeExposures, listExposures, listLedgerNights } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { LedgerService } from './service.ts';

export async function ledgerRoutes(app: FastifyInstance, { service }: { service: LedgerService }): Promise<void> {
  serve(app, listExposures, async ({ viewer, query }) => service.list(viewer, query));
  serve(app, listLedgerNights, async ({ viewer }) => ({ nights: await service.nights(viewer) }));
  serve(app, judgeExposures, async ({ viewer, body }) => service.judge(viewer, body));
}
