// Two members' projects on the same sky: offered, answered and ended.
import type { answerJoin, BodyOf, JoinCandidate, offerJoin, ProjectJoins } from '@meridiem/contract';
import { matchJoined } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import type { Project } from '../../database/models/project.ts';
import type { ProjectJoin } from '../../database/models/project-join.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ChangeService, StoredChange } from '../changes/index.ts';
import { notify } from '../notices/index.ts';
import { joinablePanels, listedJoins, lockProjects, ownersOf } from './repository.ts';

/** From how much sky in common another project is worth a word. */
const WORTH_A_WORD = 0.5;

export interface JoinParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly changes: ChangeService;
}

export type JoinService = ReturnType<typeof createJoinService>;
type Answer = BodyOf<typeof answerJoin>['answer'];

export function createJoinService({ database, clock, changes }: JoinParts) {
  changes.register('project_joins', {
    by: 'author',
    takeBack: (queries, _viewer, change) => takeBackJoin(queries, change),
  });

  const told = async (queries: Queries, { observatoryId }: Viewer): Promise<void> => {
    for (const topic of ['projects', 'plan'] as const) await announce(queries, observatoryId, topic);
  };

  /** Tells the owner of one project what was decided for it. */
  const tell = (queries: Queries, project: Project, words: string): Promise<unknown> =>
    notify(queries, { observatoryId: project.observatoryId, personId: project.ownerId, words: `${project.name}: ${words}`, link: `/projects/${project.id}` }); // prettier-ignore

  return {
    async ofProject(viewer: Viewer, projectId: string): Promise<ProjectJoins> {
      const project = await seenProject(database, viewer, projectId);
      const mayChange = isOwners(project, viewer) && project.state !== 'retired';
      const joins = await listedJoins(database, viewer, projectId);
      const panels = await joinablePanels(database, { rigId: project.rigId });
      const goalsWith = (otherId: string): number => matchJoined(panels.get(projectId) ?? [], panels.get(otherId) ?? []).pairs.length; // prettier-ignore
      return {
        joins: joins.map((join) => ({ ...join, goals: goalsWith(join.otherProjectId) })),
        candidates: mayChange ? await candidatesOf(database, viewer, project, panels) : [],
        mayChange,
      };
    },

    offer: (viewer: Viewer, projectId: string, body: BodyOf<typeof offerJoin>): Promise<{ id: string }> =>
      database.transaction(async (queries) => {
        const { observatoryId, personId } = viewer;
        const { otherProjectId, ownShare } = body;
        const project = await changeableProject(queries, viewer, projectId);
        const other = await queries.models.Project.findOne({ where: { id: otherProjectId, observatoryId } });
        if (!other || other.state === 'retired') throw notFound('project');
        await lockProjects(queries, [projectId, otherProjectId]);
        await refuseOffer(queries, project, other);
        const join = await queries.models.ProjectJoin.create({ observatoryId, fromId: projectId, toId: otherProjectId, fromShare: ownShare, offeredBy: personId }); // prettier-ignore
        await changes.record(queries, viewer, {
          entity: 'project_joins',
          entityId: join.id,
          projectId,
          words: `offered to share exposures of ${project.name}`,
          before: { state: 'withdrawn', since: null, until: null },
          after: { state: 'open', since: null, until: null },
        });
        await tell(queries, other, 'another project offers to share exposures');
        await told(queries, viewer);
        return { id: join.id };
      }),

    answer: (viewer: Viewer, id: string, { answer }: BodyOf<typeof answerJoin>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const join = await queries.models.ProjectJoin.findOne({ where: { id, observatoryId: viewer.observatoryId } });
        if (!join) throw notFound('offer');
        await lockProjects(queries, [join.fromId, join.toId]);
        await join.reload({ lock: true });
        const [from, to] = [await projectOf(queries, join.fromId), await projectOf(queries, join.toId)];
        refuseAnswer(viewer, { join, from, to }, answer);
        if (answer === 'accepted') await refuseSecond(queries, [from, to]);
        const before = standOf(join);
        const now = new Date(clock.nowUtcMs());
        await join.update({
          state: answer,
          decidedBy: viewer.personId,
          ...(answer === 'accepted' ? { since: now } : {}),
          // Ended in the moment it began: it held for no exposure.
          ...(answer === 'ended' ? { until: now } : {}),
        });
        const mine = isOwners(from, viewer) ? from : to;
        await changes.record(queries, viewer, {
          entity: 'project_joins',
          entityId: id,
          projectId: mine.id,
          words: `${ANSWER_WORDS[answer]} with ${mine.name}`,
          before,
          after: standOf(join),
        });
        await tell(queries, mine === from ? to : from, `sharing exposures was ${answer}`);
        await told(queries, viewer);
        return { ok: true };
      }),
  };
}

const ANSWER_WORDS: Readonly<Record<Answer, string>> = {
  accepted: 'accepted to share exposures',
  declined: 'declined to share exposures',
  withdrawn: 'withdrew the offer to share exposures',
  ended: 'ended sharing exposures',
};

const standOf = ({ state, since, until }: ProjectJoin) => ({
  state,
  since: since?.toISOString() ?? null,
  until: until?.toISOString() ?? null,
});

const isOwners = ({ ownerId }: Pick<Project, 'ownerId'>, { role, personId }: Viewer): boolean =>
  role === 'coordinator' || (ownerId === personId && role !== 'guest');

async function seenProject({ models }: Queries, viewer: Viewer, id: string): Promise<Project> {
  const project = await models.Project.findOne({ where: { id, observatoryId: viewer.observatoryId } });
  if (!project || !isVisible(project, viewer)) throw notFound('project');
  return project;
}

async function changeableProject(queries: Queries, viewer: Viewer, id: string): Promise<Project> {
  const project = await seenProject(queries, viewer, id);
  if (!isOwners(project, viewer)) throw notAllowed('This project belongs to another member');
  if (project.state === 'retired') throw notAllowed('This project is retired; make it a draft again first');
  return project;
}

const projectOf = async ({ models }: Queries, id: string): Promise<Project> => (await models.Project.findByPk(id))!;

type Panels = Awaited<ReturnType<typeof joinablePanels>>;

/** Other members’ projects of the rig over the same sky: a private one by what it shares only. */
async function candidatesOf(
  queries: Queries,
  viewer: Viewer,
  project: Project,
  panels: Panels,
): Promise<JoinCandidate[]> {
  const others = await ownersOf(queries, project.rigId);
  return others
    .filter(({ id, ownerId }) => id !== project.id && ownerId !== project.ownerId)
    .flatMap((other) => {
      const { coverage, pairs } = matchJoined(panels.get(project.id) ?? [], panels.get(other.id) ?? []);
      if (coverage < WORTH_A_WORD) return [];
      const { name, ownerName } = isVisible(other, viewer) ? other : { name: null, ownerName: null };
      return [{ projectId: other.id, name, ownerName, coverage, goals: pairs.length }];
    })
    .sort((one, two) => two.goals - one.goals || two.coverage - one.coverage);
}

async function refuseOffer(queries: Queries, project: Project, other: Project): Promise<void> {
  if (project.id === other.id || project.ownerId === other.ownerId)
    throw refused('otherProjectId', 'Choose another member’s project');
  if (project.rigId !== other.rigId) throw refused('otherProjectId', 'Only projects of one rig can share exposures');
  const panels = await joinablePanels(queries, { projectIds: [project.id, other.id] });
  if (matchJoined(panels.get(project.id) ?? [], panels.get(other.id) ?? []).pairs.length === 0)
    throw refused('otherProjectId', 'No goal of both asks for the same exposures of the same field');
  const { ProjectJoin } = queries.models;
  for (const [fromId, toId] of [
    [project.id, other.id],
    [other.id, project.id],
  ])
    // prettier-ignore
    if (await ProjectJoin.findOne({ where: { fromId, toId, state: ['open', 'accepted'] } }))
      throw new ServiceError('CONFLICT', 'These two projects share exposures already, or are about to');
}

interface Asked {
  readonly join: ProjectJoin;
  readonly from: Project;
  readonly to: Project;
}

/** Who may answer what: to an offer, the side it was made to; to one's own offer, that it is withdrawn; to what holds, its end. */
function refuseAnswer(viewer: Viewer, { join, from, to }: Asked, answer: Answer): void {
  const [isFrom, isTo] = [isOwners(from, viewer), isOwners(to, viewer)];
  if (!isFrom && !isTo) throw isVisible(to, viewer) || isVisible(from, viewer) ? notAllowed('These projects belong to other members') : notFound('offer'); // prettier-ignore
  const wanted = answer === 'ended' ? 'accepted' : 'open';
  if (join.state !== wanted)
    throw new ServiceError('CONFLICT', `This offer ${join.state === 'open' ? 'is not answered yet' : `was ${join.state}`}`); // prettier-ignore
  if (answer === 'withdrawn' && !isFrom) throw notAllowed('Only the side that offered it may withdraw it');
  // A coordinator decides for either side, but not for both: their own project does not accept for another member.
  const isOwnOffer = from.ownerId === viewer.personId || (join.offeredBy === viewer.personId && to.ownerId !== viewer.personId); // prettier-ignore
  if ((answer === 'accepted' || answer === 'declined') && (!isTo || isOwnOffer))
    throw notAllowed('Only the side that it was offered to may answer it');
}

/** A project shares with one other at a time. */
async function refuseSecond(queries: Queries, projects: readonly Project[]): Promise<void> {
  const { ProjectJoin } = queries.models;
  for (const { id, name } of projects)
    for (const side of ['fromId', 'toId'] as const)
      if (await ProjectJoin.findOne({ where: { [side]: id, state: 'accepted' } }))
        throw new ServiceError('CONFLICT', `${name} shares exposures with another project already; end that first`);
}

/** Back to how it stood; credit that it brought stays. */
async function takeBackJoin(queries: Queries, { entityId, before, after }: StoredChange): Promise<void> {
  const join = (await queries.models.ProjectJoin.findByPk(entityId))!;
  await lockProjects(queries, [join.fromId, join.toId]);
  await join.reload({ lock: true });
  if (join.state !== after.state) throw new ServiceError('CONFLICT', `Sharing was ${join.state} since`);
  if (before.state === 'accepted')
    await refuseSecond(queries, [await projectOf(queries, join.fromId), await projectOf(queries, join.toId)]);
  const moment = (value: unknown): Date | null => (value === null ? null : new Date(String(value)));
  await join.update({
    state: before.state as ProjectJoin['state'],
    since: moment(before.since),
    until: moment(before.until),
  });
}
