// A try-out becomes a project: exposures that belong to none, with a panel where they looked and goals of the recipes they were taken by.
import type { BodyOf, ResponseOf, promoteTryOut } from '@meridiem/contract';
import { creditAfter } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { insertPanel } from '../projects/index.ts';
import { sidesOf } from './reframe.ts';

interface TryOut {
  readonly id: string;
  readonly rigId: string;
  readonly isTaken: boolean;
  /** Who imported it; null for one that the rig took. */
  readonly importerId: string | null;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
  /** Newest revision of the recipe it was taken by: same filter, length, gain, binning. */
  readonly recipeRevisionId: string | null;
}

const exposuresOf = (queries: Queries, viewer: Viewer, ids: readonly string[]): Promise<TryOut[]> =>
  queries.rows(
    `SELECT e.id, c.rig_id AS "rigId", EXISTS (SELECT 1 FROM attributions a WHERE a.exposure_id = e.id AND a.withdrawn IS NULL) AS "isTaken",
       (SELECT i.person_id FROM import_files x JOIN imports i ON i.id = x.import_id WHERE x.exposure_id = e.id AND x.outcome = 'added' ORDER BY i.applied LIMIT 1) AS "importerId",
       (f.facts #>> '{centre,raDeg}')::float8 AS "raDeg", (f.facts #>> '{centre,decDeg}')::float8 AS "decDeg",
       coalesce((f.facts ->> 'positionAngleDeg')::float8, 0) AS "positionAngleDeg",
       (SELECT v.id FROM recipes r JOIN LATERAL (SELECT * FROM recipe_revisions x WHERE x.recipe_id = r.id ORDER BY seq DESC LIMIT 1) v ON true
          JOIN camera_modes m ON m.id = v.camera_mode_id
        WHERE r.rig_id = c.rig_id AND r.filter_id = e.filter_id AND v.exposure_s = e.exposure_s AND m.gain IS NOT DISTINCT FROM e.gain
          AND v.binning IS NOT DISTINCT FROM e.binning ORDER BY r.name LIMIT 1) AS "recipeRevisionId"
     FROM exposures e JOIN rig_revisions c ON c.id = e.rig_revision_id
     LEFT JOIN LATERAL (SELECT facts FROM import_files x WHERE x.exposure_id = e.id AND x.outcome = 'added' LIMIT 1) f ON true
     WHERE e.id = ANY ($1) AND e.observatory_id = $2 AND e.kind = 'light' ORDER BY e.start_utc`,
    [ids, viewer.observatoryId],
  );

export interface Promotion {
  readonly project: ResponseOf<typeof promoteTryOut>;
  readonly attributionIds: readonly string[];
}

/** @throws ServiceError REFUSED where they are somebody's already, of several rigs, or nobody knows where they looked */
export async function promoted(
  queries: Queries,
  viewer: Viewer,
  { exposureIds, name }: BodyOf<typeof promoteTryOut>,
): Promise<Promotion> {
  // Two people with the same try-out in hand: one after the other. Exposures themselves can't be locked, they never change.
  await queries.rows('SELECT pg_advisory_xact_lock(hashtext($1))', [`promotion ${viewer.observatoryId}`]);
  const exposures = await exposuresOf(queries, viewer, exposureIds);
  if (exposures.length < exposureIds.length) throw notFound('exposure');
  if (viewer.role !== 'coordinator' && exposures.some(({ importerId }) => importerId !== viewer.personId))
    throw notAllowed('You can make a project of exposures that you imported yourself; a coordinator of any');
  const taken = exposures.filter(({ isTaken }) => isTaken).length;
  if (taken > 0) throw refused('exposureIds', `${taken} of these exposures belong to a project already`);
  const [{ rigId }] = exposures;
  if (exposures.some((other) => other.rigId !== rigId))
    throw refused('exposureIds', 'These exposures are of several rigs: choose those of one');
  const first = exposures.find(({ raDeg }) => raDeg !== null);
  if (!first || first.raDeg === null || first.decDeg === null)
    throw refused('exposureIds', 'None of these exposures says where it looked: frame a project and match them to it');

  const { observatoryId } = viewer;
  const pointing = { centre: { raDeg: first.raDeg, decDeg: first.decDeg }, positionAngleDeg: first.positionAngleDeg };
  const target = await queries.one<{ id: string }>(
    'INSERT INTO targets (observatory_id, name, ra_deg, dec_deg) VALUES ($1, $2, $3, $4) RETURNING id',
    [observatoryId, name, first.raDeg, first.decDeg],
  );
  const project = await queries.one<{ id: string }>(
    'INSERT INTO projects (observatory_id, owner_id, rig_id, target_id, name) VALUES ($1, $2, $3, $4, $5) RETURNING id',
    [observatoryId, viewer.personId, rigId, target!.id, name],
  );
  const place = { raDeg: first.raDeg, decDeg: first.decDeg, positionAngleDeg: first.positionAngleDeg };
  const panelId = await insertPanel(queries, { observatoryId, projectId: project!.id, name, ...place });

  const sides = await sidesOf(queries, rigId);
  const covering = exposures.map(({ raDeg, decDeg, positionAngleDeg, ...exposure }) => {
    const field = { centre: { raDeg: raDeg ?? NaN, decDeg: decDeg ?? NaN }, positionAngleDeg, ...sides };
    const isKept = raDeg !== null && creditAfter(field, [pointing], sides).fate === 'keep';
    return { ...exposure, isCredited: isKept && exposure.recipeRevisionId !== null };
  });
  const goals = await goalsFor(queries, viewer, panelId, covering);
  const rows = covering.map(({ id, isCredited, recipeRevisionId }) => ({
    id: crypto.randomUUID(),
    observatory_id: observatoryId,
    exposure_id: id,
    project_id: project!.id,
    panel_id: panelId,
    goal_id: isCredited ? goals.get(recipeRevisionId!)! : null,
    credit_share: isCredited ? 1 : 0,
    reason: 'a try-out made into a project',
  }));
  await insertRows(queries, 'attributions', rows);
  return {
    project: { id: project!.id, credited: covering.filter(({ isCredited }) => isCredited).length },
    attributionIds: rows.map(({ id }) => id),
  };
}

/** A goal for each recipe, wanting what it has so far: the rest is the owner's wish. */
async function goalsFor(
  queries: Queries,
  { observatoryId }: Viewer,
  panelId: string,
  covering: readonly { readonly isCredited: boolean; readonly recipeRevisionId: string | null }[],
): Promise<Map<string, string>> {
  const goals = new Map<string, string>();
  for (const { isCredited, recipeRevisionId } of covering) {
    if (!isCredited || !recipeRevisionId || goals.has(recipeRevisionId)) continue;
    const wanted = covering.filter((other) => other.isCredited && other.recipeRevisionId === recipeRevisionId).length;
    const goal = await queries.one<{ id: string }>(
      'INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, wanted, position) VALUES ($1, $2, $3, $4, $5) RETURNING id',
      [observatoryId, panelId, recipeRevisionId, wanted, goals.size + 1],
    );
    goals.set(recipeRevisionId, goal!.id);
  }
  return goals;
}
