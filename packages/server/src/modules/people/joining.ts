// How members come: invited by a link, let in by it, and let in again with a new password.
import type { Account, BodyOf, invitePerson } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { endSessions } from '../../plugins/sessions-repository.ts';
import { requireTimeZone } from '../../time-zone.ts';
import { hashPassword, requireUncommonPassword } from '../accounts/index.ts';
import type { Invited } from './links-repository.ts';
import { voidLinks } from './links-repository.ts';
import { makeLink, openLink, spendLink } from './links.ts';
import { memberOf, noteOfMember } from './members.ts';
import { replacePassword } from './own-account.ts';
import { enterPerson, isEmailTaken } from './repository.ts';
import type { PeopleParts } from './service.ts';

export function createJoining({ database, accounts, changes }: PeopleParts) {
  return {
    invite: (viewer: Viewer, invited: BodyOf<typeof invitePerson>) =>
      database.transaction(async (queries) => {
        requireTimeZone(invited.timeZone);
        const email = invited.email.toLowerCase();
        if (await isEmailTaken(queries, email)) throw refused('email', 'There is an account with this address already');
        const link = await makeLink(queries, viewer, { kind: 'invite', invited: { ...invited, email } });
        await noteOfMember(queries, changes, viewer, {
          personId: viewer.personId,
          words: `Invited ${invited.name} as ${invited.role}`,
        });
        return link;
      }),

    async withdraw(viewer: Viewer, id: string): Promise<{ ok: true }> {
      const gone = await voidLinks(database, { id, observatoryId: viewer.observatoryId, kind: 'invite' });
      if (gone === 0) throw notFound('invitation');
      await announce(database, viewer.observatoryId, 'observatory');
      return { ok: true };
    },

    async readJoin(token: string) {
      const link = await openLink(database, token);
      const observatory = await database.models.Observatory.findByPk(link.observatoryId);
      const who = link.invited ?? (await database.models.Person.findByPk(link.personId!))!;
      return { kind: link.kind, name: who.name, email: who.email, observatoryName: observatory!.name };
    },

    async join(token: string, password: string): Promise<Account> {
      requireUncommonPassword(password, 'password');
      const passwordHash = await hashPassword(password);
      const personId = await database.transaction(async (queries) => {
        const link = await spendLink(queries, token);
        if (link.invited) return enter(queries, link.observatoryId, link.invited, passwordHash);
        await replacePassword(queries, link.personId!, passwordHash);
        await endSessions(queries, link.personId!);
        return link.personId!;
      });
      return accounts.account(personId);
    },

    reset: (viewer: Viewer, personId: string) =>
      database.transaction(async (queries) => {
        const member = await memberOf(queries, viewer, personId);
        const link = await makeLink(queries, viewer, { kind: 'reset', personId });
        await noteOfMember(queries, changes, viewer, {
          personId: personId,
          words: `Made a link for a new password of ${member.name}`,
        });
        return link;
      }),
  };
}

async function enter(queries: Queries, observatoryId: string, invited: Invited, passwordHash: string): Promise<string> {
  const id = await enterPerson(queries, observatoryId, invited, passwordHash);
  if (id === null) throw new ServiceError('NOT_POSSIBLE', 'There is an account with this address already');
  await announce(queries, observatoryId, 'observatory');
  return id;
}
