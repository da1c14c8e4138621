// Judging rules per rig: read, tried out on what is in the ledger, set as a new revision; and the alerts that judging raises.
import type { Alert, ResponseOf, Rules, RulesPreview, readRules } from '@meridiem/contract';
import { FIGURES } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import { judgedAgain, judgeGoals, RULES_SQL } from './judge-goals.ts';

export type RuleService = ReturnType<typeof createRuleService>;

export function createRuleService({ database }: { database: Database }) {
  return {
    async read(viewer: Viewer, rigId: string): Promise<ResponseOf<typeof readRules>> {
      const found = await database.one<ResponseOf<typeof readRules>>(
        `SELECT ${RULES_SQL} AS rules, p.name AS "setBy", (extract(epoch FROM u.at) * 1000)::float8 AS "setUtcMs"
         FROM rigs r LEFT JOIN LATERAL (SELECT * FROM rule_revisions x WHERE x.rig_id = r.id ORDER BY seq DESC LIMIT 1) u ON true
         LEFT JOIN people p ON p.id = u.person_id WHERE r.id = $1 AND r.observatory_id = $2`,
        [rigId, viewer.observatoryId],
      );
      if (!found) throw notFound('rig');
      return found;
    },

    async preview(viewer: Viewer, rigId: string, rules: Rules): Promise<RulesPreview> {
      const sum: RulesPreview = {
        exposures: 0,
        rejectedNow: 0,
        wouldReject: 0,
        byFigure: { starSize: 0, starCount: 0, guiding: 0, background: 0 },
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
        const rig = await queries.one('SELECT 1 FROM rigs WHERE id = $1 AND observatory_id = $2 FOR UPDATE', [
          rigId,
          viewer.observatoryId,
        ]);
        if (!rig) throw notFound('rig');
        await queries.rows(
          `INSERT INTO rule_revisions (observatory_id, rig_id, seq, star_size_sigmas, star_count_sigmas, guiding_sigmas, background_sigmas, person_id)
           SELECT $1, $2, coalesce(max(seq), 0) + 1, $3, $4, $5, $6, $7 FROM rule_revisions WHERE rig_id = $2`,
          [viewer.observatoryId, rigId, ...FIGURES.map((figure) => rules[figure]), viewer.personId],
        );
        await judgeGoals(queries, viewer.observatoryId, await goalsOfRig(queries, viewer, rigId));
        for (const topic of ['ledger', 'projects', 'plan', 'observatory'] as const)
          await announce(queries, viewer.observatoryId, topic);
        return { ok: true };
      }),

    alerts: (viewer: Viewer): Promise<Alert[]> =>
      database.rows(
        `SELECT a.id, (extract(epoch FROM a.at) * 1000)::float8 AS "atUtcMs", a.words FROM alerts a LEFT JOIN projects p ON p.id = a.project_id
         WHERE a.observatory_id = $1 AND a.seen IS NULL AND (p.id IS NULL OR ${maySee('p', '$2', viewer.role)}) ORDER BY a.at DESC LIMIT 50`,
        [viewer.observatoryId, viewer.personId],
      ),

    async markSeen(viewer: Viewer, id: string): Promise<{ ok: true }> {
      const seen = await database.one(
        `UPDATE alerts a SET seen = now(), seen_by = $3 WHERE a.id = $1 AND a.observatory_id = $2 AND a.seen IS NULL
           AND ($4 OR a.project_id IS NULL OR EXISTS (SELECT 1 FROM projects p WHERE p.id = a.project_id AND p.owner_id = $3)) RETURNING a.id`,
        [id, viewer.observatoryId, viewer.personId, viewer.role === 'coordinator'],
      );
      if (!seen) throw notFound('open alert of yours');
      await announce(database, viewer.observatoryId, 'ledger');
      return { ok: true };
    },
  };
}

async function goalsOfRig(queries: Queries, viewer: Viewer, rigId: string): Promise<string[]> {
  const rows = await queries.rows<{ id: string }>(
    `SELECT g.id FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN goal_totals t ON t.goal_id = g.id
     WHERE p.rig_id = $1 AND p.observatory_id = $2 AND p.judging AND t.exposure_count > 0 ORDER BY g.id`,
    [rigId, viewer.observatoryId],
  );
  return rows.map((row) => row.id);
}
