// What frames are matched against: rigs, filters, and the panels that the importer may credit.
import { fieldOf } from '@meridiem/core';
import type { FilterAlias, FilterSky, MatchContext, MatchPanel, Site } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { realRigs } from '../ledger/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { cameraSerials, panelsToMatch } from './repository.ts';

export interface ImportContext extends MatchContext {
  readonly site: Site;
  readonly timeZone: string;
  readonly zenithMagV: number;
  readonly skies: ReadonlyMap<string, FilterSky>;
  /** Whether frames of no real sky are credited: never beside real devices. */
  readonly simulatedCount: boolean;
}

/** A member's frames count for own projects; a coordinator's for any. */
export async function importContext(
  queries: Queries,
  viewer: Viewer,
  observatory: ObservatoryService,
): Promise<ImportContext> {
  const page = await observatory.read(viewer.observatoryId);
  const cameras = await cameraSerials(queries, viewer.observatoryId);
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
    simulatedCount: (await realRigs(queries, viewer.observatoryId)).size === 0,
  };
}

async function aliasesOf({ models }: Queries, { observatoryId }: Viewer): Promise<FilterAlias[]> {
  const rows = await models.FilterAlias.findAll({ where: { observatoryId }, order: [['name', 'ASC']] });
  return rows.map(({ name, filterId }) => ({ name, filterId }));
}

async function panelsOf(queries: Queries, viewer: Viewer): Promise<MatchPanel[]> {
  const rows = await panelsToMatch(queries, viewer);
  return rows.map(({ raDeg, decDeg, ...panel }) => ({
    ...panel,
    centre: raDeg === null || decDeg === null ? null : { raDeg, decDeg },
  }));
}
