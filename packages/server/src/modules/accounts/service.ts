// Accounts: who one is, and getting in.
import type { Account, OwnSession, ResponseOf, readSession } from '@meridiem/contract';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { endSessions, sessionsOf } from '../../plugins/sessions-repository.ts';
import { decoyHash, passwordFits } from './passwords.ts';
import type { StoredAccount } from './repository.ts';
import { accountOfEmail, accountOfPerson, countTry, demoAccounts, forgetTries } from './repository.ts';

/** Wrong passwords for an account from one address before it waits, for how long, and when they are forgotten. */
const TRIES = { most: 8, waitMs: 60_000, forgetMs: 900_000 };
export const FORGET_TRIES_MS = TRIES.forgetMs;
const LONGEST_ACCOUNT = 200;

export type AccountService = ReturnType<typeof createAccountService>;

export function createAccountService({ database, config }: { database: Database; config: Config }) {
  return {
    async session(viewer: Viewer | null): Promise<ResponseOf<typeof readSession>> {
      const stored = viewer && (await accountOfPerson(database, viewer.personId));
      const account = stored && shown(stored);
      return { account, demoAccounts: account || !config.demo ? [] : await demoAccounts(database) };
    },

    /** @param address where the try comes from: a stranger elsewhere can't lock the owner out */
    async signIn(email: string, password: string, address: string): Promise<Account> {
      const account = email.trim().toLowerCase().slice(0, LONGEST_ACCOUNT);
      if ((await countTry(database, { account, address }, TRIES)) > TRIES.most)
        throw new ServiceError(
          'TOO_MANY_TRIES',
          'Too many wrong passwords for this account; wait a minute and try again',
        );
      const found = await accountOfEmail(database, account);
      const isRight = await passwordFits(found?.passwordHash ?? (await decoyHash()), password);
      if (!found || !isRight)
        throw new ServiceError('SIGN_IN_WRONG', 'Address or password is wrong', { field: 'password' });
      await forgetTries(database, { account, address });
      return shown(found);
    },

    /** The account of somebody who has just shown by other means who they are. */
    async account(personId: string): Promise<Account> {
      const found = await accountOfPerson(database, personId);
      if (!found) throw notFound('account');
      return shown(found);
    },

    async sessions(viewer: Viewer, currentId: string | null): Promise<OwnSession[]> {
      const sessions = await sessionsOf(database, viewer.personId);
      return sessions.map((session) => ({ ...session, isCurrent: session.id === currentId }));
    },

    async endSession(viewer: Viewer, id: string): Promise<{ ok: true }> {
      if ((await endSessions(database, viewer.personId, { only: id })) === 0) throw notFound('session');
      return { ok: true };
    },
  };
}

const shown = ({ passwordHash: _hidden, ...account }: StoredAccount): Account => account;
