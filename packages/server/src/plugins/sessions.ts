// Who asks: sessions in PostgreSQL, roles per route, deny by default, and no state-changing call from another site.
import { timingSafeEqual } from 'node:crypto';
import cookie from '@fastify/cookie';
import type { AnyOperation, Role } from '@meridiem/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Config } from '../config.ts';
import type { Database } from '../database/connection.ts';
import { ServiceError } from '../errors.ts';
import { ABSOLUTE_MS, endSessions, findSession, insertSession, TOUCH_MS, touchSession } from './sessions-repository.ts';

export interface Viewer {
  readonly personId: string;
  readonly observatoryId: string;
  readonly name: string;
  readonly role: Role;
  readonly timeZone: string;
}

declare module 'fastify' {
  interface FastifyInstance {
    /** A session of its own for somebody who has just shown who they are; the one before it ends. */
    beginSession(request: FastifyRequest, reply: FastifyReply, personId: string): Promise<void>;
    endSession(request: FastifyRequest, reply: FastifyReply): Promise<void>;
  }
  interface FastifyRequest {
    viewer: Viewer | null;
    sessionId: string | null;
    observatoryRevision: string | null;
  }
  interface FastifyContextConfig {
    operation?: AnyOperation;
  }
}

export const SESSION_COOKIE = 'meridiem';
const LONGEST_AGENT = 300;

export const sessionsPlugin = fastifyPlugin(
  async (app: FastifyInstance, { config, database }: { config: Config; database: Database }) => {
    await app.register(cookie, { secret: config.sessionSecret });
    const options = {
      httpOnly: true,
      sameSite: 'lax' as const,
      secure: config.publicUrl?.protocol === 'https:',
      path: '/api',
      signed: true,
    };
    app.decorateRequest('viewer', null);
    app.decorateRequest('sessionId', null);
    app.decorateRequest('observatoryRevision', null);
    app.decorate('beginSession', async (request, reply, personId) => {
      const before = await foundSession(request, database);
      if (before) await endSessions(database, before.viewer.personId, { only: before.sessionId });
      const agent = (request.headers['user-agent'] ?? 'unknown').slice(0, LONGEST_AGENT);
      const token = await insertSession(database, { personId, agent, address: request.ip });
      reply.setCookie(SESSION_COOKIE, token, { ...options, maxAge: ABSOLUTE_MS / 1000 });
    });
    app.decorate('endSession', async ({ viewer, sessionId }, reply) => {
      if (viewer && sessionId) await endSessions(database, viewer.personId, { only: sessionId });
      reply.clearCookie(SESSION_COOKIE, options);
    });
    app.addHook('onRoute', (route) => {
      if (route.url.startsWith('/api') && !route.config?.operation)
        throw new Error(`${String(route.method)} ${route.url} says that no one may call it: it is not in the contract`);
    });
    app.addHook('preValidation', async (request) => {
      const operation = request.routeOptions.config.operation;
      if (!operation) return;
      if (request.method !== 'GET') refuseOtherSites(request, config);
      if (operation.access === 'runner') return checkRunnerKey(request, config.runnerKey);
      await recognise(request, database);
      if (operation.access === 'public') return;
      if (!request.viewer) throw new ServiceError('SIGN_IN_NEEDED', 'Sign in first');
      if (!operation.access.includes(request.viewer.role))
        throw new ServiceError('NOT_ALLOWED', `A ${request.viewer.role} may not do this`);
    });
  },
);

async function foundSession(request: FastifyRequest, database: Database) {
  const signed = request.cookies[SESSION_COOKIE];
  const { valid, value } = signed ? request.unsignCookie(signed) : { valid: false, value: null };
  return valid && value ? findSession(database, value) : null;
}

async function recognise(request: FastifyRequest, database: Database): Promise<void> {
  const found = await foundSession(request, database);
  if (!found) return;
  request.viewer = found.viewer;
  request.sessionId = found.sessionId;
  request.observatoryRevision = found.revision;
  if (Date.now() - found.seenUtcMs > TOUCH_MS) await touchSession(database, found.sessionId);
}

/** Browsers say where a call comes from; calls without either header are no browser's. */
function refuseOtherSites(request: FastifyRequest, config: Config): void {
  const site = request.headers['sec-fetch-site'];
  const origin = request.headers.origin;
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && !isOwnOrigin(origin, request, config));
  if (foreign) throw new ServiceError('CROSS_SITE', 'This call came from another site');
}

/** An origin may be "null" or no address at all: then it is not ours. */
function isOwnOrigin(origin: string, request: FastifyRequest, { publicUrl }: Config): boolean {
  if (!URL.canParse(origin)) return false;
  const { host } = new URL(origin);
  return host === publicUrl?.host || host === request.host;
}

async function checkRunnerKey(request: FastifyRequest, runnerKey: string): Promise<void> {
  const given = Buffer.from(request.headers.authorization?.replace(/^Bearer /, '') ?? '');
  const expected = Buffer.from(runnerKey);
  if (given.length !== expected.length || !timingSafeEqual(given, expected))
    throw new ServiceError('NOT_ALLOWED', 'Only the runner may do this');
}
