// A project copied: target, panels, limits, and the goals where wanted; what was gathered stays where it is.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ProjectRecord } from './repository.ts';
import { insertPanel, panelsOf } from './repository.ts';

/** @returns the id of the new draft, which belongs to the viewer */
export async function copyOf(
  queries: Queries,
  viewer: Viewer,
  source: ProjectRecord,
  { name, withGoals }: { name: string; withGoals: boolean },
): Promise<string> {
  const { observatoryId } = viewer;
  const made = await queries.one<{ id: string }>(
    `INSERT INTO projects (observatory_id, owner_id, rig_id, target_id, name, counting, judging, private, why)
     SELECT observatory_id, $2, rig_id, target_id, $3, counting, judging, private, why FROM projects WHERE id = $1 RETURNING id`,
    [source.id, viewer.personId, name],
  );
  const projectId = made!.id;
  await queries.rows(
    `INSERT INTO limit_values (observatory_id, project_id, class, key, value, is_off)
     SELECT observatory_id, $2, class, key, value, is_off FROM limit_values WHERE project_id = $1`,
    [source.id, projectId],
  );
  for (const panel of await panelsOf(queries, observatoryId, source.id)) {
    const renamed = panel.name.startsWith(source.name) ? name + panel.name.slice(source.name.length) : panel.name;
    const panelId = await insertPanel(queries, { ...panel, observatoryId, projectId, name: renamed });
    if (withGoals) await copyGoals(queries, panel.id, panelId);
  }
  return projectId;
}

/** Goals one by one, each with its own limits. */
export async function copyGoals(queries: Queries, fromPanelId: string, toPanelId: string): Promise<void> {
  const goals = await queries.rows<{ id: string }>('SELECT id FROM goals WHERE panel_id = $1 ORDER BY position', [
    fromPanelId,
  ]);
  for (const { id } of goals) {
    const made = await queries.one<{ id: string }>(
      `INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, wanted, why, enabled, position)
       SELECT observatory_id, $2, recipe_revision_id, wanted, why, enabled, position FROM goals WHERE id = $1 RETURNING id`,
      [id, toPanelId],
    );
    await queries.rows(
      `INSERT INTO limit_values (observatory_id, goal_id, key, value, is_off)
       SELECT observatory_id, $2, key, value, is_off FROM limit_values WHERE goal_id = $1`,
      [id, made!.id],
    );
  }
}
