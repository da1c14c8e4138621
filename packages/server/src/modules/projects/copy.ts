// A project copied: target, panels, limits, and the goals where wanted; what was gathered stays where it is.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ProjectRecord } from './repository.ts';
import { panelsOf } from './repository.ts';
import { copyGoals, insertCopyOfProject, insertPanels } from './copy-repository.ts';

/** @returns the id of the new draft, which belongs to the viewer */
export async function copyOf(
  queries: Queries,
  viewer: Viewer,
  source: ProjectRecord,
  { name, withGoals }: { name: string; withGoals: boolean },
): Promise<string> {
  const { observatoryId } = viewer;
  const projectId = await insertCopyOfProject(queries, source.id, { ownerId: viewer.personId, name });
  const panels = await panelsOf(queries, observatoryId, source.id);
  const renamed = (panel: string): string =>
    panel.startsWith(source.name) ? name + panel.slice(source.name.length) : panel;
  const placeOf = await insertPanels(
    queries,
    { observatoryId, projectId },
    panels.map((panel) => ({ ...panel, fromId: panel.id, name: renamed(panel.name) })),
  );
  if (withGoals) await copyGoals(queries, placeOf);
  return projectId;
}
