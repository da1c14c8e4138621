// Judging rules per rig: read, tried out on what is in the ledger, set as a new revision; and the alerts that judging raises.
import type { Alert, ResponseOf, Rules, RulesPreview, readRules } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { ledgerChanged } from './changed.ts';
import { judgedAgain } from './judge-goals.ts';
import { rulesOfRig, insertRules, unseenAlerts, markAlertSeen, judgedGoals } from './rules-repository.ts';

export type RuleService = ReturnType<typeof createRuleService>;

export function createRuleService({ database }: { database: Database }) {
  return {
    async read(viewer: Viewer, rigId: string): Promise<ResponseOf<typeof readRules>> {
      const found = await rulesOfRig(database, viewer.observatoryId, rigId);
      if (!found) throw notFound('rig');
      return found;
    },

    async preview(viewer: Viewer, rigId: string, rules: Rules): Promise<RulesPreview> {
      const sum: RulesPreview = {
        exposures: 0,
        rejectedNow: 0,
        wouldReject: 0,
        byFigure: { starSize: 0, starCount: 0, guiding: 0, background: 0, elongation: 0, starlight: 0 },
      };
      for (const goalId of await goalsOfRig(database, viewer, rigId)) {
        for (const { row, given } of await judgedAgain(database, goalId, rules)) {
          sum.exposures++;
          if (row.ruleVerdict === 'rejected') sum.rejectedNow++;
          if (given.verdict !== 'rejected') continue;
          sum.wouldReject++;
          sum.byFigure[given.worst!.figure]++;
        }
      }
      return sum;
    },

    set: (viewer: Viewer, rigId: string, rules: Rules): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const rig = await queries.models.Rig.findOne({
          where: { id: rigId, observatoryId: viewer.observatoryId },
          lock: true,
        });
        if (!rig) throw notFound('rig');
        await insertRules(queries, viewer, rigId, rules);
        await ledgerChanged(queries, viewer.observatoryId, await goalsOfRig(queries, viewer, rigId));
        await announce(queries, viewer.observatoryId, 'observatory');
        return { ok: true };
      }),

    alerts: (viewer: Viewer): Promise<Alert[]> => unseenAlerts(database, viewer),

    async markSeen(viewer: Viewer, id: string): Promise<{ ok: true }> {
      if (!(await markAlertSeen(database, viewer, id))) throw notFound('open alert of yours');
      await announce(database, viewer.observatoryId, 'ledger');
      return { ok: true };
    },
  };
}

async function goalsOfRig(queries: Queries, viewer: Viewer, rigId: string): Promise<string[]> {
  const rows = await judgedGoals(queries, viewer.observatoryId, rigId);
  return rows.map((row) => row.id);
}
