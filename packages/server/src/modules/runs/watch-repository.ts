// What is watched of a night by devices, as rows: each planned exposure with what came of it, and how the site stood.
import type { SiteReading, WatchedStep } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';
import type { RunRow, StepRow } from './repository.ts';

export const storeReading = (
  { models }: Queries,
  { id: runId, observatoryId }: Pick<RunRow, 'id' | 'observatoryId'>,
  { utcMs, isSafe, windMPerSec, isParked, ...measured }: SiteReading,
): Promise<unknown> =>
  models.RunReading.bulkCreate(
    [
      {
        ...measured,
        runId,
        observatoryId,
        at: new Date(utcMs),
        safe: isSafe,
        windMPerS: windMPerSec,
        parked: isParked,
      },
    ],
    { ignoreDuplicates: true },
  );

const MOST_READINGS = 240;

/** The newest readings of a run, in their order. */
export async function readingsOf({ models }: Queries, runId: string): Promise<SiteReading[]> {
  const rows = await models.RunReading.findAll({ where: { runId }, order: [['at', 'DESC']], limit: MOST_READINGS, raw: true }); // prettier-ignore
  return rows.reverse().map(({ at, safe, windMPerS, parked, runId: _run, observatoryId: _observatory, ...measured }) => ({
    ...measured,
    utcMs: new Date(at).getTime(),
    isSafe: safe,
    windMPerSec: windMPerS,
    isParked: parked,
  })); // prettier-ignore
}

type WatchedRow = Omit<WatchedStep, 'stay'> & { readonly panelId: string };

/** Every exposure of a run; panels of private projects without names, what another plan has replaced left out. */
export async function watchedSteps(queries: Queries, viewer: Viewer, runId: string): Promise<WatchedStep[]> {
  const rows = await queries.rows<WatchedRow>(
    `SELECT l.id AS "panelId", CASE WHEN ${maySee('p', '$2', viewer.role)} THEN l.name ELSE '${RESERVED}' END AS "panelName", f.letter AS "filterLetter", f.class AS "filterClass",
       (extract(epoch FROM s.planned_start) * 1000)::float8 AS "plannedUtcMs", s.exposure_s AS "exposureSec", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "takenUtcMs",
       s.outcome, (s.intent IS NOT NULL AND s.outcome IS NULL) AS "isUnderWay", CASE WHEN s.outcome = 'lost' THEN s.words END AS words, m.half_flux_radius_px AS "halfFluxRadiusPx"
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id
     LEFT JOIN exposures e ON e.run_step_id = s.id LEFT JOIN LATERAL (SELECT half_flux_radius_px FROM measurements x WHERE x.exposure_id = e.id ORDER BY x.measured DESC LIMIT 1) m ON true
     WHERE s.run_id = $1 AND s.outcome IS DISTINCT FROM 'replaced' ORDER BY s.seq`,
    [runId, viewer.personId],
  );
  let stay = 0;
  return rows.map(({ panelId, ...step }, i) => {
    if (i > 0 && rows[i - 1].panelId !== panelId) stay += 1;
    return { ...step, stay };
  });
}

/** The rig that is meant: the one named, or the first with a night under way, or behind it. */
export const watchedRig = (
  queries: Queries,
  observatoryId: string,
  { nightDate, rigId }: { readonly nightDate: string; readonly rigId: string | null },
): Promise<{ id: string; name: string; devices: 'none' | 'simulated' | 'address' } | null> =>
  queries.one(
    `SELECT r.id, r.name, r.devices FROM rigs r LEFT JOIN LATERAL (
       SELECT n.state FROM night_runs n JOIN night_plans p ON p.id = n.plan_id WHERE n.rig_id = r.id AND p.night_date = $2 ORDER BY n.requested DESC LIMIT 1) n ON true
     WHERE r.observatory_id = $1 AND r.retired IS NULL AND ($3::uuid IS NULL AND n.state IS NOT NULL OR r.id = $3)
     ORDER BY n.state IN ('requested', 'running', 'stopping') DESC NULLS LAST, r.position, r.name LIMIT 1`,
    [observatoryId, nightDate, rigId],
  );

/** The exposure under way and the one after it, of all of a run's. */
export function stepsAtHand(steps: readonly WatchedStep[]): { now: StepRow | null; next: StepRow | null } {
  const rowOf = (step: WatchedStep | undefined): StepRow | null =>
    step ? { ...step, startUtcMs: step.plannedUtcMs } : null;
  return {
    now: rowOf(steps.find(({ isUnderWay }) => isUnderWay)),
    next: rowOf(steps.find(({ outcome, isUnderWay }) => outcome === null && !isUnderWay)),
  };
}
