// How a night went: to those who decide, and to everyone whose project got exposures in it.
import { COORDINATORS } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { NIGHT_ENDS } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { calibrationOwed } from '../calibration/index.ts';
import { notify, peopleAs } from '../notices/index.ts';
import type { RunRow } from './repository.ts';
import type { Gathered } from './night-messages-repository.ts';
import { gatheredIn } from './night-messages-repository.ts';

const exposures = (count: number): string => (count === 1 ? '1 exposure' : `${count} exposures`);
const hours = (value: number): string => `${value.toFixed(1)} h`;
const rejectedWords = (count: number): string => (count === 0 ? '' : `, ${count} rejected`);

export async function tellOfNight(queries: Queries, run: RunRow, end: NightEnd | null): Promise<void> {
  const { observatoryId, rigId, nightDate } = run;
  const rig = (await queries.models.Rig.findByPk(rigId))!;
  const link = `/nights/${nightDate}/watch?rig=${rigId}`;
  const gathered = await gatheredIn(queries, run.id);
  const owed = await calibrationOwed({ queries, observatoryId }, rigId, nightDate);
  const words = reportWords({ rigName: rig.name, nightDate, gathered, end, owed });
  for (const personId of await peopleAs(queries, observatoryId, COORDINATORS))
    await notify(queries, { observatoryId, personId, kind: 'night', link, words });
  for (const { projectId, projectName, ownerId, own, hours: taken, rejected } of gathered)
    await notify(queries, {
      ...{ observatoryId, personId: ownerId, kind: 'night', link: `/projects/${projectId}` },
      words: `${projectName}: ${exposures(own)} (${hours(taken)}) in the night of ${nightDate}${rejectedWords(rejected)}`,
    });
}

interface Report {
  readonly rigName: string;
  readonly nightDate: string;
  readonly gathered: readonly Gathered[];
  readonly end: NightEnd | null;
  /** Calibration; null: nothing. */
  readonly owed: string | null;
}

/** An exposure that two projects share is counted once. */
export function reportWords({ rigName, nightDate, gathered, end, owed }: Report): string {
  const sum = (of: (one: Gathered) => number): number => gathered.reduce((total, one) => total + of(one), 0);
  const taken = sum(({ own, shared }) => own - shared);
  const takenHours = sum(({ own, shared, hours: all }) => (own === 0 ? 0 : (all * (own - shared)) / own));
  const counts = `${exposures(taken)}${taken > 0 ? ` (${hours(takenHours)})` : ''}${rejectedWords(sum(({ rejected }) => rejected))}`;
  return [
    `${rigName}, night of ${nightDate}: ${counts}.`,
    ...(end ? [NIGHT_ENDS[end]] : []),
    ...(owed === null ? [] : [`Calibration owed: ${owed}.`]),
  ].join(' ');
}
