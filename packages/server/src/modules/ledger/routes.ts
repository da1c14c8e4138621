import {
  judgeExposures,
  listAlerts,
  listExposures,
  listLedgerNights,
  markAlertSeen,
  previewRules,
  readGoalHistory,
  readProjectNights,
  readReasons,
  readReview,
  readRules,
  setRules,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ProgressService } from './progress.ts';
import type { RuleService } from './rules.ts';
import type { LedgerService } from './service.ts';

export async function ledgerRoutes(
  app: FastifyInstance,
  { service, rules, progress }: { service: LedgerService; rules: RuleService; progress: ProgressService },
): Promise<void> {
  serve(app, listExposures, async ({ viewer, query }) => service.list(viewer, query));
  serve(app, listLedgerNights, async ({ viewer }) => ({ nights: await service.nights(viewer) }));
  serve(app, judgeExposures, async ({ viewer, body }) => service.judge(viewer, body));
  serve(app, readProjectNights, async ({ viewer, params }) => ({ nights: await progress.nightsOf(viewer, params.id) }));
  serve(app, readGoalHistory, async ({ viewer, params }) => progress.wishesOf(viewer, params.id));
  serve(app, readReview, async ({ viewer, query }) => ({ projects: await progress.review(viewer, query) }));
  serve(app, readReasons, async ({ viewer, query }) => ({ reasons: await progress.reasons(viewer, query) }));
  serve(app, readRules, async ({ viewer, params }) => rules.read(viewer, params.id));
  serve(app, previewRules, async ({ viewer, params, body }) => rules.preview(viewer, params.id, body));
  serve(app, setRules, async ({ viewer, params, body }) => rules.set(viewer, params.id, body));
  serve(app, listAlerts, async ({ viewer }) => ({ alerts: await rules.alerts(viewer) }));
  serve(app, markAlertSeen, async ({ viewer, params }) => rules.markSeen(viewer, params.id));
}
