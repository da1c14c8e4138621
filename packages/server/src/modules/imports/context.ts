// What frames are matched against: rigs, filters, and the panels that the importer may credit.
import type { FilterAlias, FilterSky, MatchContext, MatchPanel, Site } from '@meridiem/core';
import { fieldOf } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryService } from '../observatory/index.ts';

export interface ImportContext extends MatchContext {
  readonly site: Site;
  readonly timeZone: string;
  readonly zenithMagV: number;
  readonly skies: ReadonlyMap<string, FilterSky>;
}

/** A member's frames count for own projects; a coordinator's for any. */
export async function importContext(
  queries: Queries,
  viewer: Viewer,
  observatory: ObservatoryService,
): Promise<ImportContext> {
  const page = await observatory.read(viewer.observatoryId);
  const cameras = await queries.rows<{ rigId: string; serial: string }>(
    'SELECT v.rig_id AS "rigId", c.serial FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.observatory_id = $1 AND v.during @> now()',
    [viewer.observatoryId],
  );
  return {
    site: page,
    timeZone: page.timeZone,
    zenithMagV: page.zenithMagV,
    skies: new Map(page.filters.map((filter) => [filter.id, filter])),
    filters: page.filters,
    rigs: page.rigs.map((rig) => ({
      id: rig.id,
      name: rig.name,
      cameraName: cameras.find(({ rigId }) => rigId === rig.id)?.serial ?? rig.name,
      ...fieldOf(rig),
    })),
    panels: await panelsOf(queries, viewer),
    aliases: await aliasesOf(queries, viewer),
  };
}

async function aliasesOf({ models }: Queries, { observatoryId }: Viewer): Promise<FilterAlias[]> {
  const rows = await models.FilterAlias.findAll({ where: { observatoryId }, order: [['name', 'ASC']] });
  return rows.map(({ name, filterId }) => ({ name, filterId }));
}

async function panelsOf(queries: Queries, viewer: Viewer): Promise<MatchPanel[]> {
  const rows = await queries.rows<Omit<MatchPanel, 'centre'> & { raDeg: number | null; decDeg: number | null }>(
    `SELECT l.id, l.name, p.id AS "projectId", p.name AS "projectName", t.name AS "targetName", p.rig_id AS "rigId",
       l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg",
       coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'filterId', r.filter_id, 'exposureSec', v.exposure_s, 'gain', m.gain, 'binning', v.binning) ORDER BY g.position)
         FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN camera_modes m ON m.id = v.camera_mode_id
         WHERE g.panel_id = l.id), '[]') AS goals
     FROM framed_panels l JOIN projects p ON p.id = l.project_id JOIN targets t ON t.id = p.target_id
     WHERE p.observatory_id = $1 AND ($2 OR p.owner_id = $3) AND p.state IN ('granted', 'retired', 'queued', 'proposed', 'draft')
     ORDER BY p.created, l.position`,
    [viewer.observatoryId, viewer.role === 'coordinator', viewer.personId],
  );
  return rows.map(({ raDeg, decDeg, ...panel }) => ({
    ...panel,
    centre: raDeg === null || decDeg === null ? null : { raDeg, decDeg },
  }));
}
