// The one gate to changing a project.
import type { Queries } from '../../database/connection.ts';
import { notAllowed, notFound } from '../../errors.ts';
import { isVisible } from '../../privacy.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { mayEdit } from './present.ts';
import type { ProjectRecord } from './repository.ts';
import { projectsOf } from './repository.ts';

/** A project that the viewer may change.
 * @throws NOT_FOUND, NOT_ALLOWED */
export async function editableProject(queries: Queries, viewer: Viewer, projectId: string): Promise<ProjectRecord> {
  const [project] = await projectsOf(queries, viewer.observatoryId, projectId);
  if (!project || !isVisible(project, viewer)) throw notFound('project');
  if (!mayEdit(project, viewer)) throw notAllowed('This project belongs to another member');
  return project;
}
