// Every goal of a rig with what planning needs to know of it, in one query.
import type {
  ArrivalSwitches,
  CountingPolicy,
  ExposureSettings,
  FilterClass,
  LimitKey,
  Orbit,
  PanelOrder,
  StoredLimit,
} from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { orbitOf } from '../../moving-target.ts';

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
  readonly counting: CountingPolicy;
  readonly grade: number;
  readonly panelOrder: PanelOrder;
  readonly filterGroup: number;
  readonly arrival: ArrivalSwitches;
  readonly filterId: string;
  readonly filterLetter: string;
  readonly filterClass: FilterClass;
  readonly enabled: boolean;
  /** Whether its filter is in the rig's wheel now. */
  readonly fitted: boolean;
  readonly wanted: number | null;
  readonly exposureSec: number;
  readonly pauseSec: number;
  readonly ditherEvery: number;
  readonly binning: number;
  readonly gain: number;
  readonly sensorC: number;
  readonly readNoiseE: number;
  readonly accepted: number;
  readonly undecided: number;
  readonly rejected: number;
}

/** Goals of every project that isn't retired, in a stable order. */
export const goalRowsOf = (queries: Queries, rigId: string): Promise<GoalRow[]> =>
  queries.rows(
    `SELECT g.id AS "goalId", l.id AS "panelId", l.name AS "panelName", l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg",
       ${orbitOf('p')} AS orbit,
       p.id AS "projectId", p.name AS "projectName", p.owner_id AS "ownerId", o.name AS "ownerName", p.private, p.state, p.resting, p.counting, p.grade, p.panel_order AS "panelOrder", p.filter_group AS "filterGroup",
       jsonb_build_object('guide', p.step_guide, 'centre', p.step_centre, 'focus', p.step_focus) AS arrival,
       f.id AS "filterId", f.letter AS "filterLetter", f.class AS "filterClass", g.enabled, g.wanted,
       EXISTS (SELECT 1 FROM filter_slots s WHERE s.rig_id = p.rig_id AND s.filter_id = f.id AND s.during @> now()) AS fitted,
       v.exposure_s AS "exposureSec", v.pause_s AS "pauseSec", v.dither_every AS "ditherEvery", v.binning, v.sensor_c AS "sensorC", m.gain, m.read_noise_e AS "readNoiseE",
       t.accepted, t.undecided, t.rejected
     FROM goals g
     JOIN framed_panels l ON l.id = g.panel_id
     JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
     JOIN filters f ON f.id = r.filter_id JOIN camera_modes m ON m.id = v.camera_mode_id
     JOIN goal_totals t ON t.goal_id = g.id
     WHERE p.rig_id = $1 AND p.state <> 'retired'
     ORDER BY p.created, p.id, l.position, g.position, g.id`,
    [rigId],
  );

export interface ScopedLimit extends StoredLimit {
  readonly projectId: string | null;
  readonly goalId: string | null;
}

export async function limitsOf(queries: Queries, observatoryId: string): Promise<ScopedLimit[]> {
  const rows = await queries.rows<{
    projectId: string | null;
    goalId: string | null;
    class: FilterClass | null;
    key: LimitKey;
    value: number | null;
  }>(
    'SELECT project_id AS "projectId", goal_id AS "goalId", class, key, value FROM limit_values WHERE observatory_id = $1 ORDER BY id',
    [observatoryId],
  );
  return rows.map((row) => ({ ...row, scope: row.goalId ? 'goal' : row.projectId ? 'project' : 'observatory' }));
}

export const settingsOf = (row: GoalRow): ExposureSettings => ({
  exposureSec: row.exposureSec,
  pauseSec: row.pauseSec,
  ditherEvery: row.ditherEvery,
});
