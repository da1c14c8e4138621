// Hours asked for a project by whoever may change it, and taken back before they are decided.
import type { BodyOf, ProjectRequests, QueuedRequest, askForHours } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { goalRowsOf } from '../planning/index.ts';
import { changing, editableProject } from '../projects/index.ts';
import { chargeWeightsOf, grantedHours, standingRows } from '../shares/index.ts';
import { decisionOf, setProjectState, whyNotDecide } from './deciding.ts';
import { neededHours } from './needed.ts';
import { lockedRequest, requestsOf, waitingRequestOf, waitingRequests } from './repository.ts';
import type { RequestParts } from './service.ts';

export const createAsking = ({ database, changes, observatory: observatories }: RequestParts) => ({
  async ofProject(viewer: Viewer, projectId: string): Promise<ProjectRequests> {
    const { observatoryId } = viewer;
    const project = await database.models.Project.findOne({ where: { id: projectId, observatoryId } });
    if (!project || !isVisible(project, viewer)) throw notFound('project');
    const { rigs, tonight } = await observatories.read(observatoryId);
    const { rows: standing } = await standingRows(database, { observatoryId, tonight });
    const rows = (await goalRowsOf(database, project.rigId)).filter((row) => row.projectId === projectId);
    const weights = await chargeWeightsOf(database, observatoryId);
    const needed = neededHours(
      rows,
      rigs.find(({ id }) => id === project.rigId)!,
      weights,
    );
    const [granted] = await grantedHours(database, [projectId]);
    const isOwn = project.ownerId === viewer.personId;
    const mayChange = viewer.role === 'coordinator' || (isOwn && viewer.role !== 'guest');
    const mayNotDecideWhy =
      viewer.role === 'coordinator' ? await whyNotDecide(database, viewer, project.ownerId) : null;
    const { projectId: _id, ...envelope } = granted ?? { projectId };
    return {
      requests: await requestsOf(database, projectId),
      envelope: granted ? (envelope as ProjectRequests['envelope']) : null,
      neededDarkHours: needed.darkHours,
      neededBrightHours: needed.brightHours,
      standing: standing.filter(({ memberId, rigId }) => memberId === project.ownerId && rigId === project.rigId),
      mayAsk: mayChange && project.state !== 'retired',
      mayDecide: viewer.role === 'coordinator' && mayNotDecideWhy === null,
      mayNotDecideWhy,
    };
  },

  waiting: (viewer: Viewer): Promise<QueuedRequest[]> => waitingRequests(database, viewer),

  ask: (viewer: Viewer, projectId: string, body: BodyOf<typeof askForHours>): Promise<{ id: string }> =>
    changing(database, viewer, async (queries) => {
      const { observatoryId, personId } = viewer;
      const project = await editableProject(queries, viewer, projectId);
      await refuseAsking(queries, project, body);
      const { id } = await queries.models.Request.create({ observatoryId, projectId, personId, ...body });
      const projectState = project.state === 'granted' ? 'granted' : 'proposed';
      await setProjectState(queries, projectId, projectState);
      await changes.record(queries, viewer, {
        entity: 'requests',
        entityId: id,
        projectId,
        words: `asked for ${body.darkHours + body.brightHours} h for ${project.name}`,
        before: { state: 'withdrawn', projectState: project.state },
        after: { state: 'open', projectState },
      });
      return { id };
    }),

  withdraw: (viewer: Viewer, id: string): Promise<{ ok: true }> =>
    changing(database, viewer, async (queries) => {
      const request = await lockedRequest(queries, viewer.observatoryId, id);
      if (!request) throw notFound('request');
      const project = await editableProject(queries, viewer, request.projectId);
      if (request.state === 'queued' || request.state === 'open') {
        const before = { projectState: project.state, ...decisionOf(request) };
        const projectState = project.state === 'granted' ? 'granted' : 'draft';
        await request.update({ state: 'withdrawn', decidedBy: null, decided: null, queuePlace: null });
        await setProjectState(queries, project.id, projectState);
        await changes.record(queries, viewer, {
          entity: 'requests',
          entityId: id,
          projectId: project.id,
          words: `took back the request for ${project.name}`,
          before,
          after: { state: 'withdrawn', projectState },
        });
        return { ok: true };
      }
      throw new ServiceError('CONFLICT', `This request has been ${request.state} already`);
    }),
});

async function refuseAsking(
  queries: Queries,
  project: { id: string; state: string; name: string },
  { darkHours, brightHours }: BodyOf<typeof askForHours>,
): Promise<void> {
  if (project.state === 'retired') throw notAllowed('This project is retired; make it a draft again first');
  if (darkHours + brightHours <= 0) throw refused('darkHours', 'Ask for some hours');
  if (await waitingRequestOf(queries, project.id))
    throw new ServiceError('CONFLICT', 'A request for this project waits already; withdraw it to ask otherwise');
}
