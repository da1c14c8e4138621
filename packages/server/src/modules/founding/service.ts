// An observatory begins: on an empty database a link is printed once, and whoever follows it founds the observatory and coordinates it.
import type { Account, BodyOf, QueryOf, ResponseOf, foundObservatory, readFounding } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import { requireTimeZone } from '../../time-zone.ts';
import type { AccountService } from '../accounts/index.ts';
import { hashPassword, requireUncommonPassword } from '../accounts/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { makeFirstLink, openLink, spendLink } from '../people/index.ts';
import { hasObservatory, insertFounded, lockFounding } from './repository.ts';

export type FoundingService = ReturnType<typeof createFoundingService>;

/** @returns the path of a new founding link, or null where there is an observatory already */
export const makeFoundingLink = (database: Database): Promise<string | null> =>
  database.transaction(async (queries) => ((await hasObservatory(queries)) ? null : makeFirstLink(queries)));

interface Parts {
  readonly database: Database;
  readonly accounts: AccountService;
  readonly observatory: ObservatoryService;
}

export function createFoundingService({ database, accounts, observatory: observatories }: Parts) {
  return {
    async read(token: string, place: QueryOf<typeof readFounding>): Promise<ResponseOf<typeof readFounding>> {
      await openLink(database, token, ['found']);
      const { latitudeDeg, longitudeDeg, timeZone } = place;
      if (latitudeDeg === undefined || longitudeDeg === undefined || timeZone === undefined) return { sunset: null };
      requireTimeZone(timeZone);
      const { sunsetUtcMs, sunriseUtcMs, noonSunAzimuthDeg } = observatories.sunset({
        latitudeDeg,
        longitudeDeg,
        elevationM: 0,
        timeZone,
      });
      return { sunset: { sunsetUtcMs, sunriseUtcMs, noonSunAzimuthDeg } };
    },

    async found(
      token: string,
      { observatory, name, email, password }: BodyOf<typeof foundObservatory>,
    ): Promise<Account> {
      requireTimeZone(observatory.timeZone);
      requireUncommonPassword(password, 'password');
      const passwordHash = await hashPassword(password);
      const personId = await database.transaction(async (queries) => {
        await lockFounding(queries);
        await spendLink(queries, token, ['found']);
        if (await hasObservatory(queries))
          throw new ServiceError('NOT_POSSIBLE', 'The observatory has been founded already');
        return insertFounded(queries, observatory, { email: email.toLowerCase(), name, passwordHash });
      });
      return accounts.account(personId);
    },
  };
}
