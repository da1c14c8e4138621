// What only a person at the site can mend: told to those who can go, and shown on every page until the roof is closed.
import type { ResponseOf, readAlarms } from '@meridiem/contract';
import { HANDS } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { notify, peopleAs } from '../notices/index.ts';
import { openCalls } from './actions-repository.ts';
import type { RunRow } from './repository.ts';
import type { RunServiceParts } from './service.ts';

export async function callForHands(
  queries: Queries,
  { observatoryId, rigId, nightDate }: RunRow,
  words: string,
): Promise<void> {
  const rig = await queries.models.Rig.findByPk(rigId);
  const link = `/nights/${nightDate}/watch?rig=${rigId}`;
  for (const personId of await peopleAs(queries, observatoryId, HANDS))
    await notify(queries, {
      observatoryId,
      personId,
      kind: 'danger',
      words: `${rig?.name ?? 'A rig'}: ${words}`,
      link,
    });
}

export const createAlarms = ({ database, observatory }: Pick<RunServiceParts, 'database' | 'observatory'>) => ({
  alarms: async ({ observatoryId }: Viewer): Promise<ResponseOf<typeof readAlarms>> => ({
    timeZone: (await observatory.site(observatoryId)).timeZone,
    alarms: await openCalls(database, observatoryId),
  }),
});
