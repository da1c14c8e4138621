// An observatory begins: on an empty database a link is printed once, and whoever follows it founds the observatory and coordinates it.
import type { Account, BodyOf, QueryOf, ResponseOf, foundObservatory, readFounding } from '@meridiem/contract';
import { STANDARD_FILTERS } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { ServiceError } from '../../errors.ts';
import { requireTimeZone } from '../../time-zone.ts';
import type { AccountService } from '../accounts/index.ts';
import { hashPassword, requireUncommonPassword } from '../accounts/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { newToken, openLink, spendLink } from '../people/index.ts';

const VALID_DAYS = 2;
/** One number for the lock under which an observatory is founded: two people with one link found it once. */
const LOCK = 417_032;

export type FoundingService = ReturnType<typeof createFoundingService>;

/** A new founding link; earlier ones are worth nothing any more.
 * @returns its path, or null where there is an observatory already */
export const makeFoundingLink = (database: Database): Promise<string | null> =>
  database.transaction(async (queries) => {
    if (await hasObservatory(queries)) return null;
    await queries.rows(`UPDATE one_time_links SET used = now() WHERE kind = 'found' AND used IS NULL`);
    const { token, sha256 } = newToken();
    await queries.rows(
      `INSERT INTO one_time_links (token_sha256, kind, expires) VALUES (decode($1, 'hex'), 'found', now() + $2 * interval '1 day')`,
      [sha256, VALID_DAYS],
    );
    return `/found/${token}`;
  });

const hasObservatory = async (queries: Queries): Promise<boolean> =>
  (await queries.one('SELECT 1 FROM observatories')) !== null;

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
      const address = email.toLowerCase();
      const personId = await database.transaction(async (queries) => {
        await queries.rows('SELECT pg_advisory_xact_lock($1)', [LOCK]);
        const link = await openLink(queries, token, ['found'], 'FOR UPDATE');
        if (await hasObservatory(queries))
          throw new ServiceError('NOT_POSSIBLE', 'The observatory has been founded already');
        await spendLink(queries, link.id);
        const site = await queries.one<{ id: string }>(
          `INSERT INTO observatories (name, latitude_deg, longitude_deg, elevation_m, time_zone, sky_zenith_mag_v) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id`,
          [
            observatory.name,
            observatory.latitudeDeg,
            observatory.longitudeDeg,
            observatory.elevationM,
            observatory.timeZone,
            observatory.zenithMagV,
          ],
        );
        const person = await queries.one<{ id: string }>(
          'INSERT INTO people (email, name, password_hash, time_zone, fits_observer) VALUES ($1, $2, $3, $4, $2) RETURNING id',
          [address, name, passwordHash, observatory.timeZone],
        );
        await queries.rows(`INSERT INTO memberships (observatory_id, person_id, role) VALUES ($1, $2, 'coordinator')`, [
          site!.id,
          person!.id,
        ]);
        await insertRows(
          queries,
          'filters',
          STANDARD_FILTERS.map((filter, position) => ({
            observatory_id: site!.id,
            letter: filter.letter,
            name: filter.name,
            class: filter.class,
            centre_nm: filter.centreNm,
            width_nm: filter.widthNm,
            extinction_mag: filter.extinctionMagPerAirmass,
            sky_zenith_mag: filter.zenithMag,
            moon_factor: filter.moonFactor,
            position,
          })),
        );
        return person!.id;
      });
      return accounts.account(personId);
    },
  };
}
