import {
  judgeExposures,
  listAlerts,
  listExposures,
  listLedgerNights,
  markAlertSeen,
  previewRules,
  readRules,
  setRules,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { RuleService } from './rules.ts';
import type { LedgerService } from './service.ts';

export async function ledgerRoutes(
  app: FastifyInstance,
  { service, rules }: { service: LedgerService; rules: RuleService },
): Promise<void> {
  serve(app, listExposures, async ({ viewer, query }) => service.list(viewer, query));
  serve(app, listLedgerNights, async ({ viewer }) => ({ nights: await service.nights(viewer) }));
  serve(app, judgeExposures, async ({ viewer, body }) => service.judge(viewer, body));
  serve(app, readRules, async ({ viewer, params }) => rules.read(viewer, params.id));
  serve(app, previewRules, async ({ viewer, params, body }) => rules.preview(viewer, params.id, body));
  serve(app, setRules, async ({ viewer, params, body }) => rules.set(viewer, params.id, body));
  serve(app, listAlerts, async ({ viewer }) => ({ alerts: await rules.alerts(viewer) }));
  serve(app, markAlertSeen, async ({ viewer, params }) => rules.markSeen(viewer, params.id));
}
