// Under which names this server may be called: a page elsewhere that points a name of its own at us gets nothing.
import { isIP } from 'node:net';
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Config } from '../config.ts';
import { ServiceError } from '../errors.ts';

const LOOPBACK_NAMES = ['localhost', '127.0.0.1', '[::1]'];

/** The name of a host header, without its port. */
export const hostNameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

/** Names that a call may use: the public address's, loopback's where the server listens there, and the address it listens on. */
export function allowedHosts({ host, publicUrl }: Pick<Config, 'host' | 'publicUrl'>): ReadonlySet<string> {
  const listening = isIP(host) === 6 ? `[${host}]` : host.toLowerCase();
  return new Set([...LOOPBACK_NAMES, listening, ...(publicUrl ? [publicUrl.hostname.toLowerCase()] : [])]);
}

export const hostsPlugin = fastifyPlugin(async (app: FastifyInstance, { config }: { config: Config }) => {
  const allowed = allowedHosts(config);
  app.addHook('onRequest', async (request) => {
    if (!allowed.has(hostNameOf(request.headers.host ?? '')))
      throw new ServiceError('WRONG_HOST', 'This server is not known by that name');
  });
});
