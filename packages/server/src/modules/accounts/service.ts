// Accounts: who one is, and getting in. Passwords are kept as argon2id hashes only.
import type { Account, ResponseOf, readSession } from '@meridiem/contract';
import { hash, verify } from '@node-rs/argon2';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';

/** Source: OWASP Password Storage Cheat Sheet, argon2id minimum. */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);

export const passwordFits = (passwordHash: string, password: string): Promise<boolean> =>
  verify(passwordHash, password);

/** Wrong passwords in a row before an account waits, and for how long. */
const MAX_FAILURES = 8;
const WAIT_MS = 60_000;

const SELECT_ACCOUNT = `
  SELECT p.id AS "personId", p.name, m.role, p.time_zone AS "timeZone", o.name AS "observatoryName", p.password_hash AS "passwordHash"
  FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended JOIN observatories o ON o.id = m.observatory_id`;

export type AccountService = ReturnType<typeof createAccountService>;

export function createAccountService({ database, config }: { database: Database; config: Config }) {
  const failures = new Map<string, { count: number; untilMs: number }>();

  return {
    async session(viewer: Viewer | null): Promise<ResponseOf<typeof readSession>> {
      const account =
        viewer &&
        (await database.one<Account & { passwordHash?: string }>(`${SELECT_ACCOUNT} WHERE p.id = $1`, [
          viewer.personId,
        ]));
      if (account) delete account.passwordHash;
      return { account, demoAccounts: account || !config.demo ? [] : await demoAccounts(database) };
    },

    async signIn(email: string, password: string): Promise<Account> {
      const key = email.trim().toLowerCase();
      const failed = failures.get(key);
      if (failed && failed.count >= MAX_FAILURES && failed.untilMs > Date.now()) {
        throw new ServiceError(
          'TOO_MANY_TRIES',
          'Too many wrong passwords for this account; wait a minute and try again',
        );
      }
      const found = await database.one<Account & { passwordHash: string }>(`${SELECT_ACCOUNT} WHERE p.email = $1`, [
        key,
      ]);
      const right = found
        ? await passwordFits(found.passwordHash, password)
        : await passwordFits(await decoyHash(), password).then(() => false);
      if (!found || !right) {
        failures.set(key, { count: (failed?.count ?? 0) + 1, untilMs: Date.now() + WAIT_MS });
        throw new ServiceError('SIGN_IN_WRONG', 'Address or password is wrong', { field: 'password' });
      }
      failures.delete(key);
      const { passwordHash: _hidden, ...account } = found;
      return account;
    },
  };
}

/** Unknown addresses take as long as wrong passwords. */
let decoy: Promise<string> | null = null;
const decoyHash = (): Promise<string> => (decoy ??= hashPassword('no such account'));

const demoAccounts = (database: Database) =>
  database.rows<{ email: string; name: string; role: Account['role']; password: string }>(
    `SELECT p.email, p.name, m.role, p.demo_password AS password FROM people p JOIN memberships m ON m.person_id = p.id AND m.during @> now() AND NOT m.suspended
     WHERE p.demo_password IS NOT NULL ORDER BY array_position(ARRAY['coordinator', 'member', 'helper', 'guest'], m.role), p.name`,
  );
