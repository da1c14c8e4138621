// Members: who they are, how they come, pause, change and go. The last coordinator can't.
import type {
  Account,
  BodyOf,
  Person,
  ResponseOf,
  changePassword,
  editAccount,
  editMembership,
  invitePerson,
  listPeople,
} from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import { requireTimeZone } from '../../time-zone.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { AccountService } from '../accounts/index.ts';
import { hashPassword, passwordFits, requireUncommonPassword } from '../accounts/index.ts';
import { endSessions } from '../../plugins/sessions-repository.ts';
import type { ChangeService } from '../changes/index.ts';
import type { Invited } from './links.ts';
import { makeLink, openLink, spendLink, voidResetLinks } from './links.ts';

export interface PeopleParts {
  readonly database: Database;
  readonly accounts: AccountService;
  readonly changes: ChangeService;
}

interface MemberRow {
  readonly membershipId: string;
  readonly name: string;
  readonly role: Person['role'];
  readonly suspended: boolean;
}

export type PeopleService = ReturnType<typeof createPeopleService>;

export function createPeopleService({ database, accounts, changes }: PeopleParts) {
  return {
    async list(viewer: Viewer): Promise<ResponseOf<typeof listPeople>> {
      const isCoordinator = viewer.role === 'coordinator';
      const people = await database.rows<Person>(
        `SELECT p.id, p.name, m.role, p.time_zone AS "timeZone", CASE WHEN $2 OR p.id = $3 THEN p.email END AS email, p.fits_observer AS "fitsObserver", m.suspended,
           (extract(epoch FROM lower(m.during)) * 1000)::float8 AS "sinceUtcMs", p.id = $3 AS "isYou",
           (SELECT count(*)::int FROM projects j WHERE j.owner_id = p.id AND j.observatory_id = $1 AND j.state <> 'retired' AND (NOT j.private OR $2 OR j.owner_id = $3)) AS projects
         FROM people p JOIN memberships m ON m.person_id = p.id AND m.observatory_id = $1 AND m.during @> now()
         ORDER BY array_position(ARRAY['coordinator', 'helper', 'member', 'guest'], m.role), p.name`,
        [viewer.observatoryId, isCoordinator, viewer.personId],
      );
      const invitations = isCoordinator ? await invitationsOf(database, viewer.observatoryId) : [];
      return { people, invitations };
    },

    invite: (viewer: Viewer, invited: BodyOf<typeof invitePerson>) =>
      database.transaction(async (queries) => {
        requireTimeZone(invited.timeZone);
        const email = invited.email.toLowerCase();
        if (await queries.one('SELECT 1 FROM people WHERE email = $1', [email]))
          throw refused('email', 'Somebody with this address has an account already');
        const link = await makeLink(queries, viewer, { kind: 'invite', invited: { ...invited, email } });
        await note(queries, viewer, viewer.personId, `Invited ${invited.name} as ${invited.role}`);
        return link;
      }),

    async withdraw(viewer: Viewer, id: string): Promise<{ ok: true }> {
      const gone = await database.one(
        `UPDATE one_time_links SET used = now() WHERE id = $1 AND observatory_id = $2 AND kind = 'invite' AND used IS NULL RETURNING id`,
        [id, viewer.observatoryId],
      );
      if (!gone) throw notFound('invitation');
      await announce(database, viewer.observatoryId, 'observatory');
      return { ok: true };
    },

    async readJoin(token: string) {
      const link = await openLink(database, token);
      const observatory = await database.one<{ name: string }>('SELECT name FROM observatories WHERE id = $1', [
        link.observatoryId,
      ]);
      const who =
        link.invited ??
        (await database.one<{ name: string; email: string }>('SELECT name, email FROM people WHERE id = $1', [
          link.personId,
        ]))!;
      return { kind: link.kind, name: who.name, email: who.email, observatoryName: observatory!.name };
    },

    async join(token: string, password: string): Promise<Account> {
      requireUncommonPassword(password, 'password');
      const passwordHash = await hashPassword(password);
      const personId = await database.transaction(async (queries) => {
        const link = await openLink(queries, token, ['invite', 'reset'], 'FOR UPDATE');
        await spendLink(queries, link.id);
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
        await note(queries, viewer, personId, `Made a link for a new password of ${member.name}`);
        return link;
      }),

    edit: (
      viewer: Viewer,
      personId: string,
      { role, suspended }: BodyOf<typeof editMembership>,
    ): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const member = await memberOf(queries, viewer, personId);
        const next = { role: role ?? member.role, suspended: suspended ?? member.suspended };
        if (next.role !== 'coordinator' || next.suspended) await keepACoordinator(queries, viewer, personId);
        await queries.rows('UPDATE memberships SET role = $2, suspended = $3 WHERE id = $1', [
          member.membershipId,
          next.role,
          next.suspended,
        ]);
        await endSessions(queries, personId);
        const words =
          suspended === undefined || suspended === member.suspended
            ? `Made ${member.name} ${next.role}`
            : `${suspended ? 'Suspended' : 'Readmitted'} ${member.name}`;
        await note(queries, viewer, personId, words);
        return { ok: true };
      }),

    leave: (viewer: Viewer, personId: string, handOnTo: string | null): Promise<{ projects: number }> =>
      database.transaction(async (queries) => {
        if (viewer.role !== 'coordinator' && viewer.personId !== personId)
          throw notAllowed('Only a coordinator may let somebody else go');
        const member = await memberOf(queries, viewer, personId);
        await keepACoordinator(queries, viewer, personId);
        if (handOnTo !== null) {
          const heir = await memberOf(queries, viewer, handOnTo);
          if (handOnTo === personId || heir.role === 'guest' || heir.suspended)
            throw refused('handOnTo', 'Projects can be handed on to another member who is not a guest or suspended');
        }
        const projects = await queries.rows(
          handOnTo === null
            ? `UPDATE projects SET state = 'retired', version = version + 1 WHERE owner_id = $1 AND observatory_id = $2 AND state <> 'retired' RETURNING id`
            : `UPDATE projects SET owner_id = $3, version = version + 1 WHERE owner_id = $1 AND observatory_id = $2 AND state <> 'retired' RETURNING id`,
          handOnTo === null ? [personId, viewer.observatoryId] : [personId, viewer.observatoryId, handOnTo],
        );
        await queries.rows(
          'UPDATE memberships SET during = tstzrange(lower(during), greatest(now(), lower(during))) WHERE id = $1',
          [member.membershipId],
        );
        await endSessions(queries, personId);
        await note(queries, viewer, personId, `${member.name} left`);
        for (const topic of ['projects', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
        return { projects: projects.length };
      }),

    async editAccount(
      viewer: Viewer,
      { name, timeZone, fitsObserver }: BodyOf<typeof editAccount>,
    ): Promise<{ ok: true }> {
      if (timeZone !== undefined) requireTimeZone(timeZone);
      await database.rows(
        `UPDATE people SET name = coalesce($2, name), time_zone = coalesce($3, time_zone), fits_observer = CASE WHEN $4 THEN $5 ELSE fits_observer END WHERE id = $1`,
        [viewer.personId, name ?? null, timeZone ?? null, fitsObserver !== undefined, fitsObserver ?? null],
      );
      await announce(database, viewer.observatoryId, 'observatory');
      return { ok: true };
    },

    async changePassword(
      viewer: Viewer,
      { current, next }: BodyOf<typeof changePassword>,
      keptSessionId: string | null,
    ): Promise<{ ok: true }> {
      const stored = await database.one<{ hash: string }>('SELECT password_hash AS hash FROM people WHERE id = $1', [
        viewer.personId,
      ]);
      if (!(await passwordFits(stored!.hash, current))) throw refused('current', 'This is not your present password');
      requireUncommonPassword(next, 'next');
      const passwordHash = await hashPassword(next);
      await database.transaction(async (queries) => {
        await replacePassword(queries, viewer.personId, passwordHash);
        await endSessions(queries, viewer.personId, keptSessionId === null ? {} : { except: keptSessionId });
      });
      return { ok: true };
    },
  };

  async function note(queries: Queries, viewer: Viewer, personId: string, words: string): Promise<void> {
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
}

/** A new password makes every link to choose another one worthless. */
async function replacePassword(queries: Queries, personId: string, passwordHash: string): Promise<void> {
  await queries.models.Person.update({ passwordHash, demoPassword: null }, { where: { id: personId } });
  await voidResetLinks(queries, personId);
}

const invitationsOf = (
  queries: Queries,
  observatoryId: string,
): Promise<ResponseOf<typeof listPeople>['invitations']> =>
  queries.rows(
    `SELECT id, invited->>'name' AS name, invited->>'email' AS email, invited->>'role' AS role, (extract(epoch FROM expires) * 1000)::float8 AS "expiresUtcMs"
     FROM one_time_links WHERE observatory_id = $1 AND kind = 'invite' AND used IS NULL AND expires > now() ORDER BY made`,
    [observatoryId],
  );

async function memberOf(queries: Queries, viewer: Viewer, personId: string): Promise<MemberRow> {
  const member = await queries.one<MemberRow>(
    `SELECT m.id AS "membershipId", p.name, m.role, m.suspended FROM memberships m JOIN people p ON p.id = m.person_id
     WHERE m.person_id = $1 AND m.observatory_id = $2 AND m.during @> now() FOR UPDATE OF m`,
    [personId, viewer.observatoryId],
  );
  if (!member) throw notFound('member');
  return member;
}

/** The database refuses it as well; here it is said in words. */
async function keepACoordinator(queries: Queries, viewer: Viewer, leaving: string): Promise<void> {
  const others = await queries.rows(
    `SELECT 1 FROM memberships WHERE observatory_id = $1 AND during @> now() AND role = 'coordinator' AND NOT suspended AND person_id <> $2 FOR UPDATE`,
    [viewer.observatoryId, leaving],
  );
  if (others.length === 0)
    throw new ServiceError('NOT_POSSIBLE', 'The last coordinator can’t go: make somebody else coordinator first');
}

async function enter(queries: Queries, observatoryId: string, invited: Invited, passwordHash: string): Promise<string> {
  const person = await queries.one<{ id: string }>(
    'INSERT INTO people (email, name, password_hash, time_zone, fits_observer) VALUES ($1, $2, $3, $4, $5) ON CONFLICT (email) DO NOTHING RETURNING id',
    [invited.email, invited.name, passwordHash, invited.timeZone, invited.fitsObserver],
  );
  if (!person) throw new ServiceError('NOT_POSSIBLE', 'Somebody with this address has an account already');
  await queries.rows('INSERT INTO memberships (observatory_id, person_id, role) VALUES ($1, $2, $3)', [
    observatoryId,
    person.id,
    invited.role,
  ]);
  await announce(queries, observatoryId, 'observatory');
  return person.id;
}
