// How a night went: to those who decide, and to everyone whose project got exposures in it.
import { COORDINATORS } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { NIGHT_ENDS } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { notify } from '../notices/index.ts';
import type { RunRow } from './repository.ts';
import { peopleAs } from './actions-repository.ts';
import { gatheredIn } from './night-messages-repository.ts';

const exposures = (count: number): string => (count === 1 ? '1 exposure' : `${count} exposures`);

export async function tellOfNight(queries: Queries, run: RunRow, end: NightEnd | null): Promise<void> {
  const { observatoryId, rigId, nightDate } = run;
  const rig = (await queries.models.Rig.findByPk(rigId))!;
  const link = `/nights/${nightDate}/watch?rig=${rigId}`;
  const gathered = await gatheredIn(queries, run.id);
  const taken = gathered.reduce((sum, { own, shared }) => sum + own - shared, 0);
  const how = end ? ` ${NIGHT_ENDS[end]}` : '';
  for (const personId of await peopleAs(queries, observatoryId, COORDINATORS))
    await notify(queries, { observatoryId, personId, kind: 'night', link, words: `${rig.name}, night of ${nightDate}: ${exposures(taken)}.${how}` }); // prettier-ignore
  for (const { projectId, projectName, ownerId, own } of gathered)
    await notify(queries, { observatoryId, personId: ownerId, kind: 'night', link: `/projects/${projectId}`, words: `${projectName}: ${exposures(own)} in the night of ${nightDate}` }); // prettier-ignore
}
