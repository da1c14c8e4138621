// What planning reads of goals: all of a rig in one query, their limits, and what a night has brought them.
import type {
  ArrivalSwitches,
  CountingPolicy,
  ExposureSettings,
  FilterClass,
  LimitKey,
  Orbit,
  PanelOrder,
  StoredLimit,
  ObservingNight,
  RuleReach,
  EnvelopeHours,
} from '@meridiem/core';
import { countingInForce, countsOn } from '@meridiem/core';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { thisMoment } from '../../database/validity.ts';
import { HAS_RULES } from '../../database/rules-repository.ts';
import { orbitOf } from '../../database/orbit-repository.ts';
import { grantedHours } from '../shares/index.ts';

export interface GoalRow {
  readonly goalId: string;
  readonly panelId: string;
  readonly panelName: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
  /** Of a target that moves: its place is worked out for each night. */
  readonly orbit: Orbit | null;
  readonly projectId: string;
  readonly projectName: string;
  readonly ownerId: string;
  readonly ownerName: string;
  readonly private: boolean;
  readonly state: string;
  readonly resting: boolean;
  /** As it works for this goal. */
  readonly counting: CountingPolicy;
  readonly grade: number;
  readonly lastNight: string | null;
  readonly decayNights: number | null;
  /** What its work counts in the night that is planned, [0, 1]; all where no night is. */
  readonly counts?: number;
  /** The owner's own order among their projects: 3 first, 1 last. */
  readonly ownRank: number;
  /** Charged hours that its project's grants still hold; null where nothing bounds it. */
  readonly envelope: EnvelopeHours | null;
  readonly panelOrder: PanelOrder;
  readonly filterGroup: number;
  readonly arrival: ArrivalSwitches;
  readonly filterId: string;
  readonly filterLetter: string;
  readonly filterClass: FilterClass;
  readonly enabled: boolean;
  /** Whether its filter is in the rig's wheel at the moment asked for. */
  readonly fitted: boolean;
  readonly wanted: number | null;
  readonly exposureSec: number;
  readonly pauseSec: number;
  readonly ditherEvery: number;
  readonly shareRead: number;
  readonly binning: number;
  readonly gain: number;
  readonly sensorC: number;
  readonly readNoiseE: number;
  readonly accepted: number;
  readonly undecided: number;
  readonly rejected: number;
}

/** Goals of every project that isn't retired, in a stable order. */
export async function goalRowsOf(queries: Queries, rigId: string, at = thisMoment()): Promise<GoalRow[]> {
  const rows = await queries.rows<GoalRow & RuleReach>(
    `SELECT g.id AS "goalId", l.id AS "panelId", l.name AS "panelName", l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg",
       ${orbitOf('p')} AS orbit,
       p.id AS "projectId", p.name AS "projectName", p.owner_id AS "ownerId", o.name AS "ownerName", p.private, p.state, p.resting, p.counting, p.judging, ${HAS_RULES} AS "hasRules", p.deadline::text AS "lastNight", p.decay_nights AS "decayNights", p.grade, p.own_rank AS "ownRank", p.panel_order AS "panelOrder", p.filter_group AS "filterGroup",
       jsonb_build_object('guide', p.step_guide, 'centre', p.step_centre, 'focus', p.step_focus) AS arrival,
       f.id AS "filterId", f.letter AS "filterLetter", f.class AS "filterClass", g.enabled, g.wanted,
       EXISTS (SELECT 1 FROM filter_slots s WHERE s.rig_id = p.rig_id AND s.filter_id = f.id AND s.during @> $2::timestamptz) AS fitted,
       v.exposure_s AS "exposureSec", v.pause_s AS "pauseSec", v.dither_every AS "ditherEvery", coalesce(v.region_width_px::float8 * v.region_height_px / (c.width_px * c.height_px), 1) AS "shareRead", v.binning, v.sensor_c AS "sensorC", m.gain, m.read_noise_e AS "readNoiseE",
       t.accepted, t.undecided, t.rejected
     FROM goals g
     JOIN framed_panels l ON l.id = g.panel_id
     JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
     JOIN filters f ON f.id = r.filter_id ${modeNow('v', 'm')}
     JOIN goal_totals t ON t.goal_id = g.id
     JOIN rig_revisions w ON w.rig_id = p.rig_id AND w.during @> $2::timestamptz JOIN cameras c ON c.id = w.camera_id
     WHERE p.rig_id = $1 AND p.state <> 'retired'
     ORDER BY p.created, p.id, l.position, g.position, g.id`,
    [rigId, at],
  );
  const envelopes = await envelopesOf(queries, [...new Set(rows.map(({ projectId }) => projectId))]);
  return rows.map(({ judging, hasRules, ...row }) => ({
    ...row,
    envelope: envelopes.get(row.projectId) ?? null,
    counting: countingInForce(row.counting, { judging, hasRules, wanted: row.wanted }),
  }));
}

async function envelopesOf(queries: Queries, projectIds: readonly string[]): Promise<Map<string, EnvelopeHours>> {
  const granted = await grantedHours(queries, projectIds);
  return new Map(
    granted.map(({ projectId, darkHours, brightHours, usedDarkHours, usedBrightHours }) => [
      projectId,
      { dark: Math.max(0, darkHours - usedDarkHours), bright: Math.max(0, brightHours - usedBrightHours) },
    ]),
  );
}

/** Goals with what their work counts in a night, after their project's last one. */
export const countedOn = (rows: readonly GoalRow[], nightDate: string): GoalRow[] =>
  rows.map((row) => ({ ...row, counts: countsOn(nightDate, row) }));

/** Last nights of the projects that have one. */
export async function deadlinesOf({ models }: Queries, observatoryId: string): Promise<Map<string, string>> {
  const rows = await models.Project.findAll({ where: { observatoryId }, attributes: ['id', 'deadline'] });
  return new Map(rows.flatMap(({ id, deadline }) => (deadline ? [[id, deadline] as const] : [])));
}

export interface ScopedLimit extends StoredLimit {
  readonly projectId: string | null;
  readonly goalId: string | null;
}

export async function limitsOf({ models }: Queries, observatoryId: string): Promise<ScopedLimit[]> {
  const rows = await models.LimitValue.findAll({ where: { observatoryId }, order: ['id'] });
  return rows.map(({ projectId, goalId, class: ofClass, key, value }) => ({
    projectId,
    goalId,
    class: ofClass,
    key: key as LimitKey,
    value,
    scope: goalId ? 'goal' : projectId ? 'project' : 'observatory',
  }));
}

export const settingsOf = (row: GoalRow): ExposureSettings => ({
  exposureSec: row.exposureSec,
  pauseSec: row.pauseSec,
  ditherEvery: row.ditherEvery,
  shareRead: row.shareRead,
});

export interface TakenTonight {
  readonly goalId: string;
  readonly taken: number;
  readonly rejected: number;
}

export const takenOfNight = (
  queries: Queries,
  observatoryId: string,
  { nightDate }: ObservingNight,
): Promise<TakenTonight[]> =>
  queries.rows(
    `SELECT a.goal_id AS "goalId", count(*)::int AS taken, (count(*) FILTER (WHERE r.verdict = 'rejected'))::int AS rejected
     FROM exposures e JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL JOIN ledger_rows r ON r.exposure_id = e.id AND r.goal_id = a.goal_id
     WHERE e.observatory_id = $1 AND e.night_date = $2 AND a.goal_id IS NOT NULL GROUP BY a.goal_id`,
    [observatoryId, nightDate],
  );

/** When the credited exposures of a night began, by goal. */
export const exposuresOfNight = (
  queries: Queries,
  observatoryId: string,
  { nightDate }: ObservingNight,
): Promise<{ goalId: string; startUtcMs: number }[]> =>
  queries.rows(
    `SELECT a.goal_id AS "goalId", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs" FROM exposures e
     JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL WHERE e.observatory_id = $1 AND e.night_date = $2 AND a.goal_id IS NOT NULL`,
    [observatoryId, nightDate],
  );

/** When a rig's last exposure of a night ended; null before its first. */
export async function lastExposureEndUtcMs(
  queries: Queries,
  rigId: string,
  { nightDate }: ObservingNight,
): Promise<number | null> {
  const row = await queries.one<{ endUtcMs: number | null }>(
    `SELECT (extract(epoch FROM max(e.start_utc + e.exposure_s * interval '1 second')) * 1000)::float8 AS "endUtcMs"
     FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id WHERE v.rig_id = $1 AND e.observatory_id = v.observatory_id AND e.night_date = $2`,
    [rigId, nightDate],
  );
  return row!.endUtcMs;
}

export const filtersOfGoals = (
  queries: Queries,
  goalIds: readonly string[],
): Promise<{ id: string; filterLetter: string; filterClass: FilterClass }[]> =>
  queries.rows(
    `SELECT g.id, f.letter AS "filterLetter", f.class AS "filterClass" FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id
     JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id WHERE g.id = ANY($1)`,
    [goalIds],
  );

export async function projectOfGoal(
  { models }: Queries,
  observatoryId: string,
  goalId: string,
): Promise<string | null> {
  const goal = await models.Goal.findOne({ where: { id: goalId, observatoryId } });
  const panel = goal && (await models.Panel.findByPk(goal.panelId));
  return panel?.projectId ?? null;
}
