// A project copied: target, panels, limits, and the goals where wanted; what was gathered stays where it is.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ProjectRecord } from './repository.ts';
import { insertPanel, panelsOf } from './repository.ts';
import { copyGoals, insertCopyOfProject } from './copy-repository.ts';

/** @returns the id of the new draft, which belongs to the viewer */
export async function copyOf(
  queries: Queries,
  viewer: Viewer,
  source: ProjectRecord,
  { name, withGoals }: { name: string; withGoals: boolean },
): Promise<string> {
  const { observatoryId } = viewer;
  const projectId = await insertCopyOfProject(queries, source.id, { ownerId: viewer.personId, name });
  for (const panel of await panelsOf(queries, observatoryId, source.id)) {
    const renamed = panel.name.startsWith(source.name) ? name + panel.name.slice(source.name.length) : panel.name;
    const panelId = await insertPanel(queries, { ...panel, observatoryId, projectId, name: renamed });
    if (withGoals) await copyGoals(queries, panel.id, panelId);
  }
  return projectId;
}
