// Members as rows: people, and their memberships with the time they hold.
import type { Person, ResponseOf, listPeople } from '@meridiem/contract';
import { col, fn, literal, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { Membership } from '../../database/models/membership.ts';
import { IN_FORCE, NOW } from '../../database/now.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { Invited } from './links-repository.ts';

export const membersOf = (queries: Queries, viewer: Viewer): Promise<Person[]> =>
  queries.rows(
    `SELECT p.id, p.name, m.role, p.time_zone AS "timeZone", CASE WHEN $2 OR p.id = $3 THEN p.email END AS email, p.fits_observer AS "fitsObserver", m.suspended,
       (extract(epoch FROM lower(m.during)) * 1000)::float8 AS "sinceUtcMs", p.id = $3 AS "isYou",
       (SELECT count(*)::int FROM projects j WHERE j.owner_id = p.id AND j.observatory_id = $1 AND j.state <> 'retired' AND (NOT j.private OR $2 OR j.owner_id = $3)) AS projects
     FROM people p JOIN memberships m ON m.person_id = p.id AND m.observatory_id = $1 AND m.during @> now()
     ORDER BY array_position(ARRAY['coordinator', 'helper', 'member', 'guest'], m.role), p.name`,
    [viewer.observatoryId, viewer.role === 'coordinator', viewer.personId],
  );

export async function openInvitations(
  { models }: Queries,
  observatoryId: string,
): Promise<ResponseOf<typeof listPeople>['invitations']> {
  const links = await models.OneTimeLink.findAll({
    where: { observatoryId, kind: 'invite', used: null, expires: { [Op.gt]: NOW } },
    order: ['made'],
  });
  return links.map(({ id, invited, expires }) => {
    const { name, email, role } = invited as Invited;
    return { id, name, email, role, expiresUtcMs: expires.getTime() };
  });
}

export interface Member {
  readonly membershipId: string;
  readonly name: string;
  readonly role: Person['role'];
  readonly suspended: boolean;
}

/** A member, held until the transaction ends; null for whoever is none now. */
export async function lockedMember(
  { models }: Queries,
  observatoryId: string,
  personId: string,
): Promise<Member | null> {
  const membership = await models.Membership.findOne({
    where: { observatoryId, personId, during: IN_FORCE },
    lock: true,
  });
  if (!membership) return null;
  const { name } = (await models.Person.findByPk(personId))!;
  const { id: membershipId, role, suspended } = membership;
  return { membershipId, name, role, suspended };
}

/** Coordinators beside one person, held until the transaction ends. */
export const otherCoordinators = (
  { models }: Queries,
  observatoryId: string,
  personId: string,
): Promise<Membership[]> =>
  models.Membership.findAll({
    where: { observatoryId, role: 'coordinator', suspended: false, during: IN_FORCE, personId: { [Op.ne]: personId } },
    lock: true,
  });

export const hasOtherCoordinator = async (
  { models }: Queries,
  observatoryId: string,
  personId: string,
): Promise<boolean> =>
  (await models.Membership.count({
    where: { observatoryId, role: 'coordinator', suspended: false, during: IN_FORCE, personId: { [Op.ne]: personId } },
  })) > 0;

export const updateMembership = (
  { models }: Queries,
  id: string,
  values: Pick<Membership, 'role' | 'suspended'>,
): Promise<unknown> => models.Membership.update(values, { where: { id } });

export const endMembership = ({ models }: Queries, id: string): Promise<unknown> =>
  models.Membership.update(
    { during: fn('tstzrange', fn('lower', col('during')), fn('greatest', NOW, fn('lower', col('during')))) },
    { where: { id } },
  );

/** What somebody who leaves has goes to another member, or is retired.
 * @returns how many projects that were */
export async function handOnProjects(
  { models }: Queries,
  { observatoryId, from, to }: { observatoryId: string; from: string; to: string | null },
): Promise<number> {
  const values = to === null ? { state: 'retired' as const } : { ownerId: to };
  const [count] = await models.Project.update(
    { ...values, version: literal('version + 1') },
    { where: { observatoryId, ownerId: from, state: { [Op.ne]: 'retired' } } },
  );
  return count;
}

/** @returns their id, or null where somebody has this address already */
export async function enterPerson(
  { models }: Queries,
  observatoryId: string,
  { email, name, timeZone, fitsObserver, role }: Invited,
  passwordHash: string,
): Promise<string | null> {
  const [person] = await models.Person.bulkCreate([{ email, name, passwordHash, timeZone, fitsObserver }], {
    ignoreDuplicates: true,
    returning: true,
  });
  if (!person?.id) return null;
  await models.Membership.create({ observatoryId, personId: person.id, role });
  return person.id;
}

export const isEmailTaken = async ({ models }: Queries, email: string): Promise<boolean> =>
  (await models.Person.count({ where: { email } })) > 0;

const MEMBERS_NOW = `SELECT p.id AS "personId", m.observatory_id AS "observatoryId", p.name, m.role, p.time_zone AS "timeZone"
  FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended`;

/** A member with the role held now, for work that goes on after the call that asked for it. */
export const memberNow = (queries: Queries, observatoryId: string, personId: string): Promise<Viewer | null> =>
  queries.one(`${MEMBERS_NOW} WHERE m.observatory_id = $1 AND p.id = $2`, [observatoryId, personId]);

/** Whom an import from files is made for: the person of an address, else the coordinator of longest standing. */
export const importerOf = (queries: Queries, email: string | undefined): Promise<Viewer | null> =>
  queries.one(
    `${MEMBERS_NOW}
     WHERE m.role <> 'guest' AND CASE WHEN $1::text IS NULL THEN m.role = 'coordinator' ELSE p.email = lower($1) END ORDER BY lower(m.during), p.email LIMIT 1`,
    [email ?? null],
  );
