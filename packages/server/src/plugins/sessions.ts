// Who asks: sessions in PostgreSQL, roles per route, deny by default, and no state-changing call from another site.
import { timingSafeEqual } from 'node:crypto';
import cookie from '@fastify/cookie';
import session from '@fastify/session';
import type { AnyOperation, Role } from '@meridiem/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Config } from '../config.ts';
import type { Database } from '../database/connection.ts';
import { ServiceError } from '../errors.ts';

export interface Viewer {
  readonly personId: string;
  readonly observatoryId: string;
  readonly name: string;
  readonly role: Role;
  readonly timeZone: string;
}

declare module 'fastify' {
  interface FastifyRequest {
    viewer: Viewer | null;
  }
  interface FastifyContextConfig {
    operation?: AnyOperation;
  }
  interface Session {
    personId?: string;
    signedInUtcMs?: number;
  }
}

const IDLE_MS = 12 * 3_600_000;
const ABSOLUTE_MS = 14 * 86_400_000;

export const sessionsPlugin = fastifyPlugin(
  async (app: FastifyInstance, { config, database }: { config: Config; database: Database }) => {
    await app.register(cookie);
    await app.register(session, {
      secret: config.sessionSecret,
      cookieName: 'meridiem',
      cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', path: '/', maxAge: IDLE_MS },
      saveUninitialized: false,
      rolling: true,
      store: sessionStore(database),
    });
    app.decorateRequest('viewer', null);
    app.addHook('onRoute', (route) => {
      if (route.url.startsWith('/api') && !route.config?.operation)
        throw new Error(`${String(route.method)} ${route.url} says nobody may call it: it is not in the contract`);
    });
    app.addHook('preValidation', async (request) => {
      const operation = request.routeOptions.config.operation;
      if (!operation) return;
      if (request.method !== 'GET') refuseOtherSites(request);
      if (operation.access === 'runner') return checkRunnerKey(request, config.runnerKey);
      request.viewer = await viewerOf(request, database);
      if (operation.access === 'public') return;
      if (!request.viewer) throw new ServiceError('SIGN_IN_NEEDED', 'Sign in first');
      if (!operation.access.includes(request.viewer.role))
        throw new ServiceError('NOT_ALLOWED', `A ${request.viewer.role} may not do this`);
    });
  },
);

async function viewerOf(request: FastifyRequest, database: Database): Promise<Viewer | null> {
  const { personId, signedInUtcMs } = request.session;
  if (!personId || !signedInUtcMs || Date.now() - signedInUtcMs > ABSOLUTE_MS) return null;
  return database.one<Viewer>(
    `SELECT p.id AS "personId", m.observatory_id AS "observatoryId", p.name, m.role, p.time_zone AS "timeZone"
     FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended WHERE p.id = $1 LIMIT 1`,
    [personId],
  );
}

/** A session of its own for somebody who has just shown who they are. */
export async function beginSession(request: FastifyRequest, personId: string): Promise<void> {
  await request.session.regenerate();
  request.session.personId = personId;
  request.session.signedInUtcMs = Date.now();
}

/** Browsers say where a call comes from; calls without either header are no browser's. */
function refuseOtherSites(request: FastifyRequest): void {
  const site = request.headers['sec-fetch-site'];
  const origin = request.headers.origin;
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && new URL(origin).host !== request.headers.host);
  if (foreign) throw new ServiceError('CROSS_SITE', 'This call came from another site');
}

async function checkRunnerKey(request: FastifyRequest, runnerKey: string): Promise<void> {
  const given = Buffer.from(request.headers.authorization?.replace(/^Bearer /, '') ?? '');
  const expected = Buffer.from(runnerKey);
  if (given.length !== expected.length || !timingSafeEqual(given, expected))
    throw new ServiceError('NOT_ALLOWED', 'Only the runner may do this');
}

type StoredSession = Record<string, unknown> & { personId?: string };

function sessionStore(database: Database) {
  return {
    get(sid: string, done: (error: unknown, content?: never) => void): void {
      database
        .one<{ content: never }>('SELECT content FROM sessions WHERE sid = $1 AND expires > now()', [sid])
        .then((row) => done(null, row?.content), done);
    },
    set(sid: string, content: unknown, done: (error?: unknown) => void): void {
      const plain = JSON.parse(JSON.stringify(content)) as StoredSession;
      database
        .rows(
          `INSERT INTO sessions (sid, person_id, content, expires) VALUES ($1, $2, $3, now() + $4 * interval '1 ms')
           ON CONFLICT (sid) DO UPDATE SET person_id = EXCLUDED.person_id, content = EXCLUDED.content, expires = EXCLUDED.expires`,
          [sid, plain.personId ?? null, JSON.stringify(plain), IDLE_MS],
        )
        .then(() => done(), done);
    },
    destroy(sid: string, done: (error?: unknown) => void): void {
      database.rows('DELETE FROM sessions WHERE sid = $1 OR expires < now()', [sid]).then(() => done(), done);
    },
  };
}
