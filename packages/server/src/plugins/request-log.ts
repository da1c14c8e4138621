// What is logged of a request: never a secret that stands in its address.
import type { FastifyRequest } from 'fastify';

const LONGEST_URL = 500;
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** The path of an address with what may be a secret left out: any part long enough to be one that is no id, and every
 * search value. */
export function loggedUrl(url: string): string {
  const [path, query] = url.slice(0, LONGEST_URL).split('?', 2);
  const parts = path.split('/').map((part) => (/^[\w.~-]{20,}$/.test(part) && !UUID.test(part) ? '…' : part));
  const names = query === undefined ? [] : [...new URLSearchParams(query).keys()];
  return parts.join('/') + (names.length > 0 ? `?${names.join('&')}` : '');
}

export const requestSerializer = (request: FastifyRequest) => ({
  method: request.method,
  url: loggedUrl(request.url),
  remoteAddress: request.ip,
});
