// The night that plays, or last played, on a rig, with what it does now and next.
import type { NightRun } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';

interface StepRow {
  readonly panelName: string;
  readonly filterLetter: string;
  readonly startUtcMs: number;
  readonly exposureSec: number;
}

const stepOf = (viewer: Viewer): string => `
  SELECT CASE WHEN ${maySee('p', '$2', viewer.role)} THEN l.name ELSE '${RESERVED}' END AS "panelName", f.letter AS "filterLetter", (extract(epoch FROM s.planned_start) * 1000)::float8 AS "startUtcMs", s.exposure_s AS "exposureSec"
  FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
  JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id
  WHERE s.run_id = $1`;

export async function currentRunOf(
  queries: Queries,
  viewer: Viewer,
  { rigId, nightDate }: { rigId: string; nightDate: string },
): Promise<NightRun | null> {
  const step = stepOf(viewer);
  const run = await queries.one<Omit<NightRun, 'now' | 'next'>>(
    `SELECT n.id, n.kind, (extract(epoch FROM n.expires) * 1000)::float8 AS "expiresUtcMs", n.state, n.speed, (extract(epoch FROM n.heard) * 1000)::float8 AS "heardUtcMs",
       (n.state IN ('running', 'stopping') AND n.lease_until < now()) IS TRUE AS silent,
       (SELECT (extract(epoch FROM max(s.planned_start + CASE WHEN s.outcome IS NULL THEN interval '0' ELSE s.exposure_s * interval '1 second' END)) * 1000)::float8
          FROM run_steps s WHERE s.run_id = n.id AND s.intent IS NOT NULL) AS "clockUtcMs",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id AND s.outcome = 'done') AS "stepsDone",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id AND s.outcome = 'lost') AS "stepsLost",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id) AS "stepsAll"
     FROM night_runs n JOIN night_plans p ON p.id = n.plan_id
     WHERE n.rig_id = $1 AND p.night_date = $2 ORDER BY n.requested DESC LIMIT 1`,
    [rigId, nightDate],
  );
  if (!run) return null;
  const active = run.state === 'running' || run.state === 'requested' || run.state === 'stopping';
  const now = active
    ? await queries.one<StepRow>(`${step} AND s.intent IS NOT NULL AND s.outcome IS NULL ORDER BY s.seq LIMIT 1`, [
        run.id,
        viewer.personId,
      ])
    : null;
  const next = active
    ? await queries.one<StepRow>(`${step} AND s.intent IS NULL ORDER BY s.seq LIMIT 1`, [run.id, viewer.personId])
    : null;
  return {
    ...run,
    now: now && {
      words: 'Exposing',
      panelName: now.panelName,
      filterLetter: now.filterLetter,
      endsUtcMs: now.startUtcMs + now.exposureSec * 1000,
    },
    next: next && {
      words: 'Then',
      panelName: next.panelName,
      filterLetter: next.filterLetter,
      startsUtcMs: next.startUtcMs,
    },
  };
}
