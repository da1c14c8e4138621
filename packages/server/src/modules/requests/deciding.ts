// Requests granted, returned with a remark or queued by coordinators; nobody decides their own unless there is nobody else.
import type { BodyOf, grantRequest, queueRequest, returnRequest } from '@meridiem/contract';
import { literal } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { Request as StoredRequest } from '../../database/models/request.ts';
import type { Project } from '../../database/models/project.ts';
import { NOW } from '../../database/now.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { notify } from '../notices/index.ts';
import { hasOtherCoordinator } from '../people/index.ts';
import { changing, refuseUnpositioned } from '../projects/index.ts';
import { lastPlace, lockedRequest, waitingRequestOf, withdrawGrantsOf } from './repository.ts';
import type { RequestParts } from './service.ts';

type Outcome = 'granted' | 'returned' | 'queued';

interface Decision {
  readonly outcome: Outcome;
  readonly remark: string | null;
  readonly remarkField?: StoredRequest['remarkField'];
  readonly words: string;
}

export function createDeciding({ database, changes }: RequestParts) {
  changes.register('requests', { by: 'owner', takeBack: (queries, viewer, change) => takeBackDecision(queries, viewer, change) }); // prettier-ignore

  const decide = (
    viewer: Viewer,
    id: string,
    decisionFor: (queries: Queries, request: StoredRequest, project: Project) => Promise<Decision>,
  ): Promise<{ ok: true }> =>
    changing(database, viewer, async (queries) => {
      const { observatoryId, personId } = viewer;
      const request = await lockedRequest(queries, observatoryId, id);
      if (!request) throw notFound('request');
      if (!['open', 'queued'].includes(request.state))
        throw new ServiceError('CONFLICT', `This request has been ${request.state} already`);
      const project = (await queries.models.Project.findByPk(request.projectId))!;
      const owners = [request.personId, project.ownerId];
      const why = await whyNotDecide(queries, viewer, ...owners);
      if (why) throw notAllowed(why);
      const { outcome, words, ...decision } = await decisionFor(queries, request, project);
      const queuePlace = outcome === 'queued' ? (await lastPlace(queries, observatoryId)) + 1 : null;
      const before = { projectState: project.state, ...decisionOf(request) };
      const projectState = project.state === 'granted' ? 'granted' : outcome;
      const decidedAlone = owners.includes(personId);
      await request.update({
        ...decision,
        state: outcome,
        queuePlace,
        decidedBy: personId,
        decided: NOW,
        decidedAlone,
      });
      await setProjectState(queries, project.id, projectState);
      await changes.record(queries, viewer, {
        entity: 'requests',
        entityId: id,
        projectId: project.id,
        words: `${words} ${project.name}`,
        before,
        after: { state: outcome, projectState },
      });
      if (!decidedAlone)
        await notify(queries, { observatoryId, personId: project.ownerId, words: `${project.name}: ${noticeOf(outcome, decision.remark)}`, link: `/projects/${project.id}` }); // prettier-ignore
      return { ok: true };
    });

  return {
    grant: (viewer: Viewer, id: string, { darkHours, brightHours, remark }: BodyOf<typeof grantRequest>) =>
      decide(viewer, id, async (queries, request, project): Promise<Decision> => {
        if (darkHours + brightHours <= 0) throw refused('darkHours', 'Grant some hours, or return the request');
        await refuseUnpositioned(queries, project.id);
        const { observatoryId, personId } = viewer;
        await queries.models.Grant.create({ observatoryId, projectId: project.id, requestId: request.id, darkHours, brightHours, personId }); // prettier-ignore
        return { outcome: 'granted', remark: remark || null, words: 'granted' };
      }),

    return: (viewer: Viewer, id: string, { remark, remarkField }: BodyOf<typeof returnRequest>) =>
      decide(viewer, id, async () => ({ outcome: 'returned', remark, remarkField, words: 'returned' })),

    queue: (viewer: Viewer, id: string, { remark }: BodyOf<typeof queueRequest>) =>
      decide(viewer, id, async () => ({ outcome: 'queued', remark, words: 'queued' })),
  };
}

const noticeOf = (outcome: Outcome, remark: string | null): string =>
  `${outcome === 'queued' ? 'waits in the queue' : outcome}${remark ? `: ${remark}` : ''}`;

/** Why somebody who decides may not decide this: it is their own, and there are others to decide it; null where they may. */
export async function whyNotDecide(
  queries: Queries,
  { observatoryId, personId }: Viewer,
  ...ownerIds: string[]
): Promise<string | null> {
  if (!ownerIds.includes(personId)) return null;
  const isAlone = !(await hasOtherCoordinator(queries, observatoryId, personId));
  return isAlone ? null : 'This is your own project: another coordinator decides it';
}

export const setProjectState = ({ models }: Queries, id: string, state: string): Promise<unknown> =>
  models.Project.update({ state: state as Project['state'], version: literal('version + 1') }, { where: { id } });

/** How a request stands decided: what a step writes over, and undo puts back. */
export const decisionOf = ({
  state,
  queuePlace,
  decidedBy,
  decided,
  decidedAlone,
  remark,
  remarkField,
}: StoredRequest) => ({
  state,
  queuePlace,
  decidedBy,
  decided,
  decidedAlone,
  remark,
  remarkField,
});

/** Puts a request and its project's state back as they were before a step, where nobody has gone on since. */
async function takeBackDecision(
  queries: Queries,
  viewer: Viewer,
  { entityId, before, after }: StoredChange,
): Promise<void> {
  const request = (await lockedRequest(queries, viewer.observatoryId, entityId))!;
  const project = (await queries.models.Project.findByPk(request.projectId))!;
  if (request.state !== after.state || project.state !== after.projectState)
    throw new ServiceError('CONFLICT', 'Another person has handled this request since');
  const { projectState: _state, ...decision } = before;
  if (decision.state === 'open' || decision.state === 'queued') {
    const waiting = await waitingRequestOf(queries, project.id);
    if (waiting && waiting.id !== entityId)
      throw new ServiceError('CONFLICT', 'Another request waits for this project by now');
  }
  await withdrawGrantsOf(queries, entityId);
  await request.update(decision);
  await setProjectState(queries, project.id, String(before.projectState));
}
