// Accounts as rows: who one is, and how often an address has been tried in vain.
import type { Account } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

const SELECT_ACCOUNT = `
  SELECT p.id AS "personId", p.name, m.role, p.time_zone AS "timeZone", o.name AS "observatoryName", p.password_hash AS "passwordHash"
  FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended JOIN observatories o ON o.id = m.observatory_id`;

export type StoredAccount = Account & { readonly passwordHash: string };

export const accountOfPerson = (queries: Queries, personId: string): Promise<StoredAccount | null> =>
  queries.one(`${SELECT_ACCOUNT} WHERE p.id = $1`, [personId]);

export const accountOfEmail = (queries: Queries, email: string): Promise<StoredAccount | null> =>
  queries.one(`${SELECT_ACCOUNT} WHERE p.email = $1`, [email]);

export const demoAccounts = (
  queries: Queries,
): Promise<{ email: string; name: string; role: Account['role']; password: string }[]> =>
  queries.rows(
    `SELECT p.email, p.name, m.role, p.demo_password AS password FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended
     WHERE p.demo_password IS NOT NULL ORDER BY array_position(ARRAY['coordinator', 'member', 'helper', 'guest'], m.role), p.name`,
  );

export interface Tries {
  readonly account: string;
  readonly address: string;
}

/** Counts a try before it is made, so that many at once count as many. A row that waits is not prolonged by trying.
 * @returns how many stand against this account from this address */
export async function countTry(
  queries: Queries,
  { account, address }: Tries,
  limits: { most: number; waitMs: number; forgetMs: number },
): Promise<number> {
  const row = await queries.one<{ failures: number }>(
    `INSERT INTO sign_in_failures AS f (account, address, failures) VALUES ($1, $2, 1)
     ON CONFLICT (account, address) DO UPDATE SET
       failures = CASE WHEN f.last < now() - $5 * interval '1 ms' OR (f.failures > $3 AND f.last < now() - $4 * interval '1 ms') THEN 1 ELSE f.failures + 1 END,
       last = CASE WHEN f.failures > $3 AND f.last >= now() - $4 * interval '1 ms' THEN f.last ELSE now() END
     RETURNING failures`,
    [account, address, limits.most, limits.waitMs, limits.forgetMs],
  );
  return row!.failures;
}

export const forgetTries = (queries: Queries, { account, address }: Tries): Promise<number> =>
  queries.models.SignInFailure.destroy({ where: { account, address } });

/** Rows that count for nothing any more. */
export const pruneTries = (queries: Queries, forgetMs: number): Promise<unknown> =>
  queries.rows(`DELETE FROM sign_in_failures WHERE last < now() - $1 * interval '1 ms'`, [forgetMs]);

/** A demo's password, shown where people sign in. */
export const showPassword = ({ models }: Queries, personId: string, demoPassword: string): Promise<unknown> =>
  models.Person.update({ demoPassword }, { where: { id: personId } });
