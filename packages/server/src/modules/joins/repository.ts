// Joined projects as rows, and what of a rig's projects could be shared.
import type { ProjectJoin } from '@meridiem/contract';
import type { JoinablePanel } from '@meridiem/core';
import { fieldOf } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { ProjectJoin as StoredJoin } from '../../database/models/project-join.ts';
import { thisMoment } from '../../database/validity.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

/** A join and the two projects that it holds for. */
export type JoinRow = Pick<StoredJoin, 'id' | 'fromId' | 'toId' | 'fromShare'> & {
  readonly sinceUtcMs: number;
  readonly untilUtcMs: number | null;
};

const MS = (moment: string): string => `(extract(epoch FROM ${moment}) * 1000)::float8`;

/** Joins between granted projects, in force or ended, of the given projects; of all of a rig's where those are left out. */
export const joinsOf = (
  queries: Queries,
  { rigId = null, projectIds = null }: { rigId?: string | null; projectIds?: readonly string[] | null },
): Promise<JoinRow[]> =>
  queries.rows(
    `SELECT j.id, j.from_id AS "fromId", j.to_id AS "toId", j.from_share AS "fromShare", ${MS('j.since')} AS "sinceUtcMs", ${MS('j.until')} AS "untilUtcMs"
     FROM project_joins j JOIN projects a ON a.id = j.from_id JOIN projects b ON b.id = j.to_id
     WHERE j.state IN ('accepted', 'ended') AND a.rig_id = b.rig_id AND a.state = 'granted' AND b.state = 'granted'
       AND ($1::uuid IS NULL OR a.rig_id = $1) AND ($2::uuid[] IS NULL OR j.from_id = ANY ($2) OR j.to_id = ANY ($2)) ORDER BY j.created, j.id`,
    [rigId, projectIds],
  );

interface GoalFacts {
  readonly projectId: string;
  readonly panelId: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
  readonly focalLengthMm: number;
  readonly apertureMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly goalId: string | null;
  readonly exposures: string | null;
}

/** Panels of projects on the rigs they are planned on, with what their goals expose. */
export async function joinablePanels(
  queries: Queries,
  { rigId = null, projectIds = null }: { rigId?: string | null; projectIds?: readonly string[] | null },
): Promise<Map<string, JoinablePanel[]>> {
  const rows = await queries.rows<GoalFacts>(
    `SELECT p.id AS "projectId", l.id AS "panelId", l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg",
       w.focal_length_mm AS "focalLengthMm", w.aperture_mm AS "apertureMm", c.pixel_um AS "pixelUm", c.width_px AS "widthPx", c.height_px AS "heightPx",
       g.id AS "goalId", CASE WHEN g.id IS NOT NULL THEN concat_ws(' ', r.filter_id, v.exposure_s, v.binning, v.camera_mode_id, v.region_width_px, v.region_height_px) END AS exposures
     FROM projects p JOIN framed_panels l ON l.project_id = p.id
     JOIN rig_revisions w ON w.rig_id = p.rig_id AND w.during @> $3::timestamptz JOIN cameras c ON c.id = w.camera_id
     LEFT JOIN goals g ON g.panel_id = l.id AND g.enabled LEFT JOIN recipe_revisions v ON v.id = g.recipe_revision_id LEFT JOIN recipes r ON r.id = v.recipe_id
     WHERE p.state <> 'retired' AND ($1::uuid IS NULL OR p.rig_id = $1) AND ($2::uuid[] IS NULL OR p.id = ANY ($2)) ORDER BY p.created, p.id, l.position, g.position, g.id`,
    [rigId, projectIds, thisMoment()],
  );
  const panels = new Map<string, Map<string, JoinablePanel & { goals: { goalId: string; exposures: string }[] }>>();
  for (const row of rows) {
    const own = panels.get(row.projectId) ?? new Map();
    panels.set(row.projectId, own);
    const panel = own.get(row.panelId) ?? { panelId: row.panelId, field: fieldOfRow(row), goals: [] };
    own.set(row.panelId, panel);
    if (row.goalId && row.exposures) panel.goals.push({ goalId: row.goalId, exposures: row.exposures });
  }
  return new Map([...panels].map(([projectId, own]) => [projectId, [...own.values()]]));
}

function fieldOfRow(row: GoalFacts): JoinablePanel['field'] {
  const { raDeg, decDeg, positionAngleDeg } = row;
  if (raDeg === null || decDeg === null) return null;
  const { widthDeg, heightDeg } = fieldOf(row);
  return { centre: { raDeg, decDeg }, positionAngleDeg, widthDeg, heightDeg };
}

export type ListedJoin = Omit<ProjectJoin, 'goals'>;

/** Joins of a project, newest first, as a viewer may know them. */
export const listedJoins = (queries: Queries, viewer: Viewer, projectId: string): Promise<ListedJoin[]> =>
  queries.rows(
    `SELECT j.id, j.state, o.id AS "otherProjectId", CASE WHEN s.seen THEN o.name END AS "otherName", CASE WHEN s.seen THEN n.name END AS "otherOwnerName",
       CASE WHEN j.from_id = $1 THEN j.from_share ELSE 1 - j.from_share END AS "ownShare", j.from_id = $1 AS "isOffered", o.state = 'granted' AND (SELECT m.state = 'granted' FROM projects m WHERE m.id = $1) AS "areBothGranted", ${MS('j.since')} AS "sinceUtcMs", ${MS('j.until')} AS "untilUtcMs",
       (SELECT count(*)::int FROM attributions a JOIN attributions b ON b.exposure_id = a.exposure_id AND b.project_id = o.id AND b.withdrawn IS NULL AND b.charge_share IS NOT NULL
         WHERE a.project_id = $1 AND a.withdrawn IS NULL AND a.charge_share IS NOT NULL) AS exposures
     FROM project_joins j JOIN projects o ON o.id = CASE WHEN j.from_id = $1 THEN j.to_id ELSE j.from_id END JOIN people n ON n.id = o.owner_id
     CROSS JOIN LATERAL (SELECT ${maySee('o', '$2', viewer.role)} AS seen) s
     WHERE $1 IN (j.from_id, j.to_id) ORDER BY j.created DESC`,
    [projectId, viewer.personId],
  );

/** Whose projects those of a rig are. */
export const ownersOf = (
  queries: Queries,
  rigId: string,
): Promise<{ id: string; name: string; ownerId: string; ownerName: string; private: boolean }[]> =>
  queries.rows(
    `SELECT p.id, p.name, p.owner_id AS "ownerId", o.name AS "ownerName", p.private FROM projects p JOIN people o ON o.id = p.owner_id WHERE p.rig_id = $1 AND p.state <> 'retired'`,
    [rigId],
  );

export interface SharedGoal {
  readonly goalId: string;
  readonly projectId: string;
  readonly panelId: string;
  readonly wanted: number | null;
  /** Exposures that are credited or may be. */
  readonly held: number;
}

export const sharedGoals = (queries: Queries, goalIds: readonly string[]): Promise<SharedGoal[]> =>
  queries.rows(
    `SELECT g.id AS "goalId", l.project_id AS "projectId", l.id AS "panelId", g.wanted, t.accepted + t.undecided AS held
     FROM goals g JOIN panels l ON l.id = g.panel_id JOIN goal_totals t ON t.goal_id = g.id WHERE g.id = ANY ($1)`,
    [goalIds],
  );

/** Projects held while an offer between them is made or answered; in one order, so that two offers don't wait for each other. */
export const lockProjects = (queries: Queries, ids: readonly string[]): Promise<unknown> =>
  queries.rows('SELECT 1 FROM projects WHERE id = ANY ($1) ORDER BY id FOR NO KEY UPDATE', [ids]);
