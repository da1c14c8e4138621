// One-time links: 32 random bytes in the address, their hash in the database, used once or expired.
import { createHash, randomBytes } from 'node:crypto';
import type { Role } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';

const DAY_MS = 86_400_000;
const VALID_DAYS = { invite: 7, reset: 1 } as const;

export type LinkKind = 'found' | 'invite' | 'reset';

export interface Invited {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly timeZone: string;
  readonly fitsObserver: string | null;
}

export interface OpenLink {
  readonly id: string;
  readonly observatoryId: string;
  readonly kind: 'invite' | 'reset';
  readonly personId: string | null;
  readonly invited: Invited | null;
}

/** A secret for an address and what the database keeps of it. */
export function newToken(): { token: string; sha256: string } {
  const token = randomBytes(32).toString('base64url');
  return { token, sha256: hashOfToken(token) };
}

/** @returns the address to hand over; it can't be read again */
export async function makeLink(
  queries: Queries,
  viewer: Viewer,
  link: { kind: 'invite'; invited: Invited } | { kind: 'reset'; personId: string },
): Promise<{ path: string; expiresUtcMs: number }> {
  const { token, sha256 } = newToken();
  const expiresUtcMs = Date.now() + VALID_DAYS[link.kind] * DAY_MS;
  await queries.rows(
    `INSERT INTO one_time_links (observatory_id, token_sha256, kind, person_id, invited, made_by, expires) VALUES ($1, decode($2, 'hex'), $3, $4, $5, $6, $7)`,
    [
      viewer.observatoryId,
      sha256,
      link.kind,
      link.kind === 'reset' ? link.personId : null,
      link.kind === 'invite' ? JSON.stringify(link.invited) : null,
      viewer.personId,
      new Date(expiresUtcMs).toISOString(),
    ],
  );
  return { path: `/join/${token}`, expiresUtcMs };
}

/** @throws NOT_FOUND for links that never were, are used or have expired: one answer for all three */
export async function openLink(
  queries: Queries,
  token: string,
  kinds: readonly LinkKind[] = ['invite', 'reset'],
  lock: 'FOR UPDATE' | '' = '',
): Promise<OpenLink> {
  const found = await queries.one<OpenLink>(
    `SELECT id, observatory_id AS "observatoryId", kind, person_id AS "personId", invited FROM one_time_links
     WHERE token_sha256 = decode($1, 'hex') AND kind = ANY ($2) AND used IS NULL AND expires > now() ${lock}`,
    [hashOfToken(token), kinds],
  );
  if (!found)
    throw new ServiceError('NOT_FOUND', 'This link has been used or has expired; ask a coordinator for another one');
  return found;
}

export const spendLink = (queries: Queries, id: string): Promise<unknown> =>
  queries.rows('UPDATE one_time_links SET used = now() WHERE id = $1', [id]);

export const voidResetLinks = (queries: Queries, personId: string): Promise<unknown> =>
  queries.models.OneTimeLink.update({ used: new Date() }, { where: { personId, kind: 'reset', used: null } });

export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');
