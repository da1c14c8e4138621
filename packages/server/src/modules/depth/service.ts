// How deep a project has got, place by place, from its measured files; and what the archive holds over the field that it frames.
import type { FilterDepth, ProjectDepth, WantedDepth } from '@meridiem/contract';
import type { DeepExposure, DepthGrid } from '@meridiem/core';
import { depthGrid, depthMap, depthSummary, worthSec } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { mayEdit } from '../projects/index.ts';
import type { ArchiveExposure } from './repository.ts';
import { archiveExposures, countedByFilter, deepExposures, depthsWanted, framedFields } from './repository.ts';

/** To the longer side: a panel of a mosaic is a few dozen of them across. */
const CELLS = 72;
/** Thousandths of a magnitude are more than is known. */
const rounded = (mag: number | null): number | null => mag && Math.round(1000 * mag) / 1000;

type Gathered = Omit<ProjectDepth, 'projectName' | 'mayEdit'>;

export type DepthService = ReturnType<typeof createDepthService>;

export function createDepthService({ database }: { database: Database }) {
  async function ofProject(id: string): Promise<Gathered> {
    const [counted, exposures, wanted] = await Promise.all([
      countedByFilter(database, id),
      deepExposures(database, id),
      depthsWanted(database, id),
    ]);
    const hasNone = wanted.filter(({ filterId }) => !counted.some((one) => one.filterId === filterId));
    const filters = [
      ...counted,
      ...hasNone.map(({ mag: _mag, share: _share, ...filter }) => ({ ...filter, exposures: 0 })),
    ];
    const wantedOf = (id: string): WantedDepth | null => {
      const wish = wanted.find(({ filterId }) => filterId === id);
      return wish ? { mag: wish.mag, share: wish.share } : null;
    };
    const grid = depthGrid(
      exposures.map(({ field }) => field),
      CELLS,
    );
    return {
      grid,
      filters: filters.map((filter) => ({
        ...filterDepth(grid, filter, exposures),
        wanted: wantedOf(filter.filterId),
      })),
      sources: [],
    };
  }

  async function ofArchive(viewer: Viewer, id: string): Promise<Gathered> {
    const grid = depthGrid(await framedFields(database, id), CELLS);
    if (!grid) return { grid, filters: [], sources: [] };
    const radiusDeg = (grid.stepDeg * Math.hypot(grid.across, grid.down)) / 2;
    const near = await archiveExposures(database, viewer, { centre: grid.centre, radiusDeg });
    const over = near.filter((exposure) => depthMap([exposure], grid).some((mag) => mag !== null));
    const filters = [...new Map(over.map((exposure) => [exposure.filterId, exposure])).values()]
      .map(({ filterId, letter, filterClass }) => ({ filterId, letter, filterClass }))
      .map((filter) => ({ ...filter, exposures: over.filter((one) => one.filterId === filter.filterId).length }))
      .sort((a, b) => b.exposures - a.exposures || a.letter.localeCompare(b.letter));
    return { grid, filters: filters.map((filter) => filterDepth(grid, filter, over)), sources: sourcesOf(over) };
  }

  return {
    async read(viewer: Viewer, id: string, of: 'project' | 'archive' = 'project'): Promise<ProjectDepth> {
      const project = await database.models.Project.findOne({ where: { id, observatoryId: viewer.observatoryId } });
      if (!project || !isVisible(project, viewer)) throw notFound('project');
      return {
        projectName: project.name,
        mayEdit: mayEdit(project, viewer),
        ...(of === 'archive' ? await ofArchive(viewer, id) : await ofProject(id)),
      };
    },
  };
}

function filterDepth(
  grid: DepthGrid | null,
  filter: Pick<FilterDepth, 'filterId' | 'letter' | 'filterClass' | 'exposures'>,
  exposures: readonly (DeepExposure & { readonly filterId: string })[],
): FilterDepth {
  const own = exposures.filter(({ filterId }) => filterId === filter.filterId);
  const cells = grid && own.length > 0 ? depthMap(own, grid).map(rounded) : [];
  const exposureSec = own.reduce((sum, exposure) => sum + exposure.exposureSec, 0);
  const told = { measured: own.length, exposureSec, worthSec: worthSec(own) };
  return { ...filter, wanted: null, ...told, cells, summary: depthSummary(cells) };
}

/** Most exposures first. */
function sourcesOf(exposures: readonly ArchiveExposure[]): ProjectDepth['sources'] {
  const sources = new Map<string, ProjectDepth['sources'][number]>();
  for (const { projectId, projectName, ownerName } of exposures)
    sources.set(projectId, {
      projectId,
      projectName,
      ownerName,
      exposures: 1 + (sources.get(projectId)?.exposures ?? 0),
    });
  return [...sources.values()].sort((a, b) => b.exposures - a.exposures || a.projectName.localeCompare(b.projectName));
}
