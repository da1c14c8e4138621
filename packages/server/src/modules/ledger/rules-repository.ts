// Judging rules as rows, a revision after the other, and the alerts that judging raises.
import type { Alert, ResponseOf, Rules, readRules } from '@meridiem/contract';
import { FIGURES } from '@meridiem/core';
import { RULES_SQL } from './repository.ts';
import { NOW } from '../../database/now.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import type { Queries } from '../../database/connection.ts';

export const rulesOfRig = (
  queries: Queries,
  observatoryId: string,
  rigId: string,
): Promise<ResponseOf<typeof readRules> | null> =>
  queries.one(
    `SELECT ${RULES_SQL} AS rules, p.name AS "setBy", (extract(epoch FROM u.at) * 1000)::float8 AS "setUtcMs"
         FROM rigs r LEFT JOIN LATERAL (SELECT * FROM rule_revisions x WHERE x.rig_id = r.id ORDER BY seq DESC LIMIT 1) u ON true
         LEFT JOIN people p ON p.id = u.person_id WHERE r.id = $1 AND r.observatory_id = $2`,
    [rigId, observatoryId],
  );

/** The next revision of a rig's rules. */
export const insertRules = (queries: Queries, viewer: Viewer, rigId: string, rules: Rules): Promise<unknown> =>
  queries.rows(
    `INSERT INTO rule_revisions (observatory_id, rig_id, seq, star_size_sigmas, star_count_sigmas, guiding_sigmas, background_sigmas, elongation_sigmas, starlight_sigmas, person_id)
           SELECT $1, $2, coalesce(max(seq), 0) + 1, $3, $4, $5, $6, $7, $8, $9 FROM rule_revisions WHERE rig_id = $2`,
    [viewer.observatoryId, rigId, ...FIGURES.map((figure) => rules[figure]), viewer.personId],
  );

export const unseenAlerts = (queries: Queries, viewer: Viewer): Promise<Alert[]> =>
  queries.rows(
    `SELECT a.id, (extract(epoch FROM a.at) * 1000)::float8 AS "atUtcMs", a.words FROM alerts a LEFT JOIN projects p ON p.id = a.project_id
         WHERE a.observatory_id = $1 AND a.seen IS NULL AND (p.id IS NULL OR ${maySee('p', '$2', viewer.role)}) ORDER BY a.at DESC LIMIT 50`,
    [viewer.observatoryId, viewer.personId],
  );

/** @returns whether it was open, and the viewer's to close */
export async function markAlertSeen(
  { models }: Queries,
  { observatoryId, personId, role }: Viewer,
  id: string,
): Promise<boolean> {
  const alert = await models.Alert.findOne({ where: { id, observatoryId, seen: null } });
  if (!alert) return false;
  const isOwn =
    alert.projectId === null || (await models.Project.count({ where: { id: alert.projectId, ownerId: personId } })) > 0;
  if (role !== 'coordinator' && !isOwn) return false;
  await alert.update({ seen: NOW, seenBy: personId });
  return true;
}

/** Goals of a rig with exposures, in projects that are judged by rules. */
export const judgedGoals = (queries: Queries, observatoryId: string, rigId: string): Promise<{ id: string }[]> =>
  queries.rows(
    `SELECT g.id FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN goal_totals t ON t.goal_id = g.id
     WHERE p.rig_id = $1 AND p.observatory_id = $2 AND p.judging AND t.exposure_count > 0 ORDER BY g.id`,
    [rigId, observatoryId],
  );
