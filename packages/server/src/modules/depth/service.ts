// How deep a project has got, place by place, from its measured files.
import type { ProjectDepth } from '@meridiem/contract';
import { depthGrid, depthMap, depthSummary } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { countedByFilter, deepExposures } from './repository.ts';

/** To the longer side: a panel of a mosaic is a few dozen of them across. */
const CELLS = 72;
/** Thousandths of a magnitude are more than is known. */
const rounded = (mag: number | null): number | null => mag && Math.round(1000 * mag) / 1000;

export type DepthService = ReturnType<typeof createDepthService>;

export const createDepthService = ({ database }: { database: Database }) => ({
  async read(viewer: Viewer, id: string): Promise<ProjectDepth> {
    const project = await database.models.Project.findOne({ where: { id, observatoryId: viewer.observatoryId } });
    if (!project || !isVisible(project, viewer)) throw notFound('project');
    const [filters, exposures] = await Promise.all([countedByFilter(database, id), deepExposures(database, id)]);
    const grid = depthGrid(
      exposures.map(({ field }) => field),
      CELLS,
    );
    return {
      projectName: project.name,
      grid,
      filters: filters.map((filter) => {
        const own = exposures.filter(({ filterId }) => filterId === filter.filterId);
        const cells = grid && own.length > 0 ? depthMap(own, grid).map(rounded) : [];
        return { ...filter, measured: own.length, cells, summary: depthSummary(cells) };
      }),
    };
  },
});
