// Members: who they are, how they pause, change and go. The last coordinator can't.
import type { BodyOf, ResponseOf, editMembership, listPeople } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { endSessions } from '../../plugins/sessions-repository.ts';
import type { ChangeService } from '../changes/index.ts';
import type { Member } from './repository.ts';
import {
  endMembership,
  handOnProjects,
  lockedMember,
  membersOf,
  openInvitations,
  otherCoordinators,
  updateMembership,
} from './repository.ts';
import type { PeopleParts } from './service.ts';

export function createMembers({ database, changes }: PeopleParts) {
  return {
    async list(viewer: Viewer): Promise<ResponseOf<typeof listPeople>> {
      const isCoordinator = viewer.role === 'coordinator';
      const people = await membersOf(database, viewer);
      const invitations = isCoordinator ? await openInvitations(database, viewer.observatoryId) : [];
      return { people, invitations };
    },

    edit: (
      viewer: Viewer,
      personId: string,
      { role, suspended }: BodyOf<typeof editMembership>,
    ): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const member = await memberOf(queries, viewer, personId);
        const next = { role: role ?? member.role, suspended: suspended ?? member.suspended };
        if (next.role !== 'coordinator' || next.suspended) await keepACoordinator(queries, viewer, personId);
        await updateMembership(queries, member.membershipId, next);
        await endSessions(queries, personId);
        const words =
          suspended === undefined || suspended === member.suspended
            ? `Made ${member.name} ${next.role}`
            : `${suspended ? 'Suspended' : 'Readmitted'} ${member.name}`;
        await noteOfMember(queries, changes, viewer, { personId: personId, words });
        return { ok: true };
      }),

    leave: (viewer: Viewer, personId: string, handOnTo: string | null): Promise<{ projects: number }> =>
      database.transaction(async (queries) => {
        if (viewer.role !== 'coordinator' && viewer.personId !== personId)
          throw notAllowed('Only a coordinator may remove another member');
        const member = await memberOf(queries, viewer, personId);
        await keepACoordinator(queries, viewer, personId);
        if (handOnTo !== null) {
          const heir = await memberOf(queries, viewer, handOnTo);
          if (handOnTo === personId || heir.role === 'guest' || heir.suspended)
            throw refused('handOnTo', 'Projects can be handed on to another member who is not a guest or suspended');
        }
        const projects = await handOnProjects(queries, {
          observatoryId: viewer.observatoryId,
          from: personId,
          to: handOnTo,
        });
        await endMembership(queries, member.membershipId);
        await endSessions(queries, personId);
        await noteOfMember(queries, changes, viewer, { personId: personId, words: `${member.name} left` });
        for (const topic of ['projects', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
        return { projects };
      }),
  };
}

export async function noteOfMember(
  queries: Queries,
  changes: ChangeService,
  viewer: Viewer,
  { personId, words }: { personId: string; words: string },
): Promise<void> {
  await changes.record(queries, viewer, {
    entity: 'memberships',
    entityId: personId,
    projectId: null,
    words,
    before: {},
    after: {},
  });
  await announce(queries, viewer.observatoryId, 'observatory');
}

/** @throws NOT_FOUND for whoever is no member now */
export async function memberOf(queries: Queries, viewer: Viewer, personId: string): Promise<Member> {
  const member = await lockedMember(queries, viewer.observatoryId, personId);
  if (!member) throw notFound('member');
  return member;
}

/** The database refuses it as well; here it is said in words. */
async function keepACoordinator(queries: Queries, viewer: Viewer, leaving: string): Promise<void> {
  const others = await otherCoordinators(queries, viewer.observatoryId, leaving);
  if (others.length === 0)
    throw new ServiceError('NOT_POSSIBLE', 'The last coordinator can’t leave: make another member coordinator first');
}
