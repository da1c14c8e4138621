// Sessions as rows: begun by signing in alone, found by the hash of their secret, ended for good.
import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import type { Queries } from '../database/connection.ts';
import type { Viewer } from './sessions.ts';

/** How long a session lasts without a call, and at most. */
export const IDLE_MS = 12 * 3_600_000;
export const ABSOLUTE_MS = 14 * 86_400_000;
/** A session in use is written no oftener than this. */
export const TOUCH_MS = 5 * 60_000;

export interface FoundSession {
  readonly sessionId: string;
  readonly seenUtcMs: number;
  /** Number of the newest change of the observatory. */
  readonly revision: string;
  readonly viewer: Viewer;
}

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

/** @returns the secret that the cookie carries; the database keeps its hash */
export async function insertSession(
  queries: Queries,
  session: { personId: string; agent: string; address: string },
): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(Date.now() + IDLE_MS);
  await queries.models.Session.create({ ...session, tokenSha256: hashOf(token), expires });
  return token;
}

/** Who a session belongs to, with the role they hold now. */
export async function findSession(queries: Queries, token: string): Promise<FoundSession | null> {
  const row = await queries.one<Viewer & { sessionId: string; seenUtcMs: number; revision: string }>(
    `SELECT s.id AS "sessionId", (extract(epoch FROM s.seen) * 1000)::float8 AS "seenUtcMs", p.id AS "personId", m.observatory_id AS "observatoryId", p.name, m.role, p.time_zone AS "timeZone",
       coalesce((SELECT e.seq FROM events e WHERE e.observatory_id = m.observatory_id ORDER BY e.seq DESC LIMIT 1), 0)::text AS revision
     FROM sessions s JOIN people p ON p.id = s.person_id JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended
     WHERE s.token_sha256 = $1 AND s.expires > now() AND s.begun > now() - $2 * interval '1 ms' LIMIT 1`,
    [hashOf(token), ABSOLUTE_MS],
  );
  if (!row) return null;
  const { sessionId, seenUtcMs, revision, ...viewer } = row;
  return { sessionId, seenUtcMs, revision, viewer };
}

/** Keeps a session alive where it still is: one ended meanwhile stays ended. */
export async function touchSession(queries: Queries, sessionId: string): Promise<void> {
  const now = Date.now();
  await queries.models.Session.update(
    { seen: new Date(now), expires: new Date(now + IDLE_MS) },
    { where: { id: sessionId, seen: { [Op.lt]: new Date(now - TOUCH_MS) } } },
  );
}

/** Ends sessions of a person: one, all, or all but one. */
export const endSessions = (
  queries: Queries,
  personId: string,
  { only, except }: { only?: string; except?: string } = {},
): Promise<number> =>
  queries.models.Session.destroy({
    where: {
      personId,
      ...(only === undefined ? {} : { id: only }),
      ...(except === undefined ? {} : { id: { [Op.ne]: except } }),
    },
  });

export const sessionsOf = async (
  queries: Queries,
  personId: string,
): Promise<{ id: string; begunUtcMs: number; seenUtcMs: number; agent: string; address: string }[]> => {
  const rows = await queries.models.Session.findAll({
    where: { personId, expires: { [Op.gt]: new Date() } },
    order: [['seen', 'DESC']],
  });
  return rows.map(({ id, begun, seen, agent, address }) => ({
    id,
    begunUtcMs: begun.getTime(),
    seenUtcMs: seen.getTime(),
    agent,
    address,
  }));
};

/** Those of the given sessions that have not ended. */
export async function livingSessions(queries: Queries, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await queries.models.Session.findAll({
    attributes: ['id'],
    where: { id: [...ids], expires: { [Op.gt]: new Date() } },
  });
  return new Set(rows.map(({ id }) => id));
}

export const pruneSessions = (queries: Queries): Promise<number> =>
  queries.models.Session.destroy({
    where: {
      [Op.or]: [{ expires: { [Op.lt]: new Date() } }, { begun: { [Op.lt]: new Date(Date.now() - ABSOLUTE_MS) } }],
    },
  });
