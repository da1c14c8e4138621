// One-time links: 32 random bytes in the address, their hash in the database, used once or expired.
import { createHash, randomBytes } from 'node:crypto';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { Invited, LinkKind, OpenLink } from './links-repository.ts';
import { insertLink, unusedLink, voidLinks } from './links-repository.ts';

const DAY_MS = 86_400_000;
const VALID_DAYS = { found: 2, invite: 7, reset: 1 } as const;

export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A secret for an address and what the database keeps of it. */
export function newToken(): { token: string; sha256: string } {
  const token = randomBytes(32).toString('base64url');
  return { token, sha256: hashOfToken(token) };
}

const expiryOf = (kind: LinkKind): number => Date.now() + VALID_DAYS[kind] * DAY_MS;

/** @returns the address to hand over; it can't be read again */
export async function makeLink(
  queries: Queries,
  { observatoryId, personId: madeBy }: Viewer,
  link: { kind: 'invite'; invited: Invited } | { kind: 'reset'; personId: string },
): Promise<{ path: string; expiresUtcMs: number }> {
  const { token, sha256 } = newToken();
  const expiresUtcMs = expiryOf(link.kind);
  await insertLink(queries, { ...link, observatoryId, madeBy, sha256, expiresUtcMs });
  return { path: `/join/${token}`, expiresUtcMs };
}

/** The only link with which an observatory is founded; earlier ones are worth nothing any more. */
export async function makeFirstLink(queries: Queries): Promise<string> {
  await voidLinks(queries, { kind: 'found' });
  const { token, sha256 } = newToken();
  await insertLink(queries, { kind: 'found', sha256, expiresUtcMs: expiryOf('found') });
  return `/found/${token}`;
}

/** @throws NOT_FOUND for links that never were, are used or have expired: one answer for all three */
export async function openLink(
  queries: Queries,
  token: string,
  kinds: readonly LinkKind[] = ['invite', 'reset'],
): Promise<OpenLink> {
  const found = await unusedLink(queries, hashOfToken(token), kinds, { isHeld: false });
  if (!found) throw unknownLink();
  return found;
}

/** Uses a link up: of two people with one link only the first gets in.
 * @throws NOT_FOUND as openLink does */
export async function spendLink(
  queries: Queries,
  token: string,
  kinds: readonly LinkKind[] = ['invite', 'reset'],
): Promise<OpenLink> {
  const found = await unusedLink(queries, hashOfToken(token), kinds, { isHeld: true });
  if (!found) throw unknownLink();
  await voidLinks(queries, { id: found.id });
  return found;
}

const unknownLink = (): ServiceError =>
  new ServiceError('NOT_FOUND', 'This link has been used or has expired; ask a coordinator for another one');
