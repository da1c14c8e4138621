// Projects begun, copied and changed field by field.
import type { BodyOf, addProject, copyProject, editProject } from '@meridiem/contract';
import { panelName } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { editableTable, editFields } from '../changes/index.ts';
import { ledgerChanged } from '../ledger/index.ts';
import { hasOtherCoordinator } from '../people/index.ts';
import { changing } from './changing.ts';
import { copyOf } from './copy.ts';
import { editableProject } from './editable.ts';
import { goalsOf, insertPanel, insertProject, panelsWithoutPlace, projectsOf } from './repository.ts';
import type { ProjectServiceParts } from './service.ts';
import { readPosition } from './typed-position.ts';

/** States a member may give their own project; the rest is a coordinator's decision. */
const OWNER_STATES = ['draft', 'proposed', 'retired'];

export const PROJECT_FIELDS = editableTable('projects', 'Project', [
  'name',
  'state',
  'resting',
  'counting',
  'judging',
  'private',
  'grade',
  'deadline',
  'decayNights',
  'panelOrder',
  'filterGroup',
  'stepGuide',
  'stepCentre',
  'stepFocus',
  'ownRank',
  'why',
]);

export function createProjectEditing({ database, changes }: Pick<ProjectServiceParts, 'database' | 'changes'>) {
  changes.registerFields(PROJECT_FIELDS, 'owner');
  return {
    add: (viewer: Viewer, body: BodyOf<typeof addProject>): Promise<{ id: string }> =>
      changing(database, viewer, async (queries) => {
        const position = readPosition(body.raText, body.decText);
        const { observatoryId } = viewer;
        if (!(await isInService(queries, body.rigId, observatoryId))) throw refused('rigId', 'Choose a rig');
        const place = { raDeg: position?.raDeg ?? null, decDeg: position?.decDeg ?? null };
        const target =
          body.targetId === undefined
            ? { name: body.targetName, ...place }
            : await shelvedTarget(queries, observatoryId, body.targetId);
        const { id: projectId, targetId } = await insertProject(queries, viewer, { ...body, target });
        const { composition } = body;
        if (composition) await queries.models.Target.update({ composition }, { where: { id: targetId } });
        const panels = body.panels ?? [{ ...place, positionAngleDeg: body.positionAngleDeg }];
        for (const [i, panel] of panels.entries())
          await insertPanel(queries, {
            observatoryId,
            projectId,
            name: panelName(body.name, i + 1, panels.length),
            ...panel,
          });
        return { id: projectId };
      }),

    copy: (viewer: Viewer, projectId: string, body: BodyOf<typeof copyProject>): Promise<{ id: string }> =>
      changing(database, viewer, async (queries) => {
        const [source] = await projectsOf(queries, viewer.observatoryId, projectId);
        if (!source || !isVisible(source, viewer)) throw notFound('project');
        if (!(await isInService(queries, source.rigId, viewer.observatoryId))) throw refused('name', RETIRED_RIG);
        return { id: await copyOf(queries, viewer, source, body) };
      }),

    edit: (
      viewer: Viewer,
      projectId: string,
      { version, ...fields }: BodyOf<typeof editProject>,
    ): Promise<{ ok: true }> =>
      changing(database, viewer, async (queries) => {
        const project = await editableProject(queries, viewer, projectId);
        if (viewer.role !== 'coordinator') refuseCoordinatorFields(fields);
        if (fields.ownRank !== undefined && project.ownerId !== viewer.personId)
          throw notAllowed('Members rank their own projects; yours is the grade');
        if (fields.state !== undefined && fields.state !== project.state)
          await refuseState(queries, viewer, project, fields.state);
        const edited = await editFields(queries, {
          table: PROJECT_FIELDS,
          id: projectId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'projects',
            entityId: projectId,
            projectId,
            words: `${Object.keys(fields).join(', ')} of ${project.name}`,
            ...edited,
          });
        if (fields.counting !== undefined || fields.judging !== undefined)
          await ledgerChanged(
            queries,
            viewer.observatoryId,
            (await goalsOf(queries, viewer.observatoryId, projectId)).map(({ id }) => id),
          );
        return { ok: true };
      }),
  };
}

/** @throws NOT_FOUND where it is not on this observatory's shelf */
async function shelvedTarget({ models }: Queries, observatoryId: string, id: string): Promise<{ id: string }> {
  const target = await models.Target.findOne({ where: { id, observatoryId, shelved: true } });
  if (!target) throw notFound('target on the shelf');
  return target;
}

function refuseCoordinatorFields(fields: { state?: string; grade?: number }): void {
  if (fields.grade !== undefined) throw notAllowed('The grade is the coordinator’s to give');
  if (fields.state !== undefined && !OWNER_STATES.includes(fields.state))
    throw notAllowed('Granting, queueing and returning are the coordinator’s');
}

const RETIRED_RIG = 'The rig of this project is retired; a coordinator can bring it back';

const isInService = async ({ models }: Queries, id: string, observatoryId: string): Promise<boolean> =>
  (await models.Rig.count({ where: { id, observatoryId, retired: null } })) > 0;

/** What is asked for is decided where it was asked; a coordinator's own project by another one, unless there is none. */
async function refuseState(
  queries: Queries,
  { observatoryId, personId }: Viewer,
  { id, ownerId, rigId }: { id: string; ownerId: string; rigId: string },
  state: string,
): Promise<void> {
  if (state !== 'retired' && !(await isInService(queries, rigId, observatoryId))) throw refused('state', RETIRED_RIG);
  if (await queries.models.Request.findOne({ where: { projectId: id, state: ['open', 'queued'] } }))
    throw refused('state', 'Hours are asked for this project; decide or withdraw that request');
  if (state !== 'granted') return;
  await refuseUnpositioned(queries, id);
  if (ownerId === personId && (await hasOtherCoordinator(queries, observatoryId, personId)))
    throw notAllowed('This is your own project: another coordinator decides it');
}

/** A target without a position can't be granted: no position is not zero. */
export async function refuseUnpositioned(queries: Queries, projectId: string): Promise<void> {
  const [open] = await panelsWithoutPlace(queries, projectId);
  if (open !== undefined) throw refused('state', `${open} has no position yet; give it coordinates before granting`);
}
