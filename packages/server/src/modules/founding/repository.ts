// The first rows of an observatory.
import { STANDARD_FILTERS } from '@meridiem/core';
import type { BodyOf, foundObservatory } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

/** One number for the lock under which an observatory is founded: two people with one link found it once. */
const LOCK = 417_032;

export const lockFounding = (queries: Queries): Promise<unknown> =>
  queries.rows('SELECT pg_advisory_xact_lock($1)', [LOCK]);

export const hasObservatory = async ({ models }: Queries): Promise<boolean> => (await models.Observatory.count()) > 0;

export interface Founder {
  readonly email: string;
  readonly name: string;
  readonly passwordHash: string;
}

/** The observatory with its founder as coordinator and the filters that everybody knows.
 * @returns the founder's id */
export async function insertFounded(
  { models }: Queries,
  site: BodyOf<typeof foundObservatory>['observatory'],
  founder: Founder,
): Promise<string> {
  const { id: observatoryId } = await models.Observatory.create(site);
  const { id: personId } = await models.Person.create({
    ...founder,
    timeZone: site.timeZone,
    fitsObserver: founder.name,
  });
  await models.Membership.create({ observatoryId, personId, role: 'coordinator' });
  await models.Filter.bulkCreate(
    STANDARD_FILTERS.map((filter, position) => ({
      observatoryId,
      letter: filter.letter,
      name: filter.name,
      class: filter.class,
      centreNm: filter.centreNm,
      widthNm: filter.widthNm,
      extinctionMagPerAirmass: filter.extinctionMagPerAirmass,
      zenithMag: filter.zenithMag,
      moonFactor: filter.moonFactor,
      position,
    })),
  );
  return personId;
}
