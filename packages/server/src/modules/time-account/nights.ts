// Nights of the account: which are asked for, of which rig, and how far each has come.
import type { NightState } from '@meridiem/contract';
import type { ObservingNight } from '@meridiem/core';
import { HOUR_MS, nightDatePlus } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { RigRecord, SiteRecord } from '../observatory/index.ts';
import { rigsOf, siteOf } from '../observatory/index.ts';
import type { Closing } from './repository.ts';
import { newestClosings } from './repository.ts';

/** Nights that one page or one closing may span. */
const MOST_NIGHTS = 400;

/** @throws REFUSED where they are no dates, the wrong way round, or too many */
export function datesBetween(from: string, to: string): string[] {
  const days = (Date.parse(to) - Date.parse(from)) / (24 * HOUR_MS);
  if (Number.isNaN(days)) throw refused('from', 'Write nights as dates like 2026-11-23');
  if (days < 0) throw refused('to', 'The last night lies before the first');
  if (days >= MOST_NIGHTS) throw refused('to', `Choose at most ${MOST_NIGHTS} nights`);
  return Array.from({ length: days + 1 }, (_, i) => nightDatePlus(from, i));
}

/** @throws NOT_FOUND */
export async function rigNamed(
  queries: Queries,
  observatoryId: string,
  rigId: string,
): Promise<[SiteRecord, RigRecord]> {
  const site = await siteOf(queries, observatoryId);
  const rig = (await rigsOf(queries, observatoryId)).find((candidate) => candidate.id === rigId);
  if (!rig) throw notFound('rig');
  return [site, rig];
}

export const stateOf = (night: ObservingNight, closing: Closing | undefined, nowUtcMs: number): NightState =>
  night.endUtcMs > nowUtcMs ? 'ahead' : !closing ? 'open' : closing.changedSince ? 'changed' : 'closed';

export async function closingsOf(
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<Map<string, Closing>> {
  const rows = await newestClosings(queries, rigId, nights);
  return new Map(rows.map((row) => [row.nightDate, row]));
}
