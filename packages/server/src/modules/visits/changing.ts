// A change of visits: all or nothing, and told to everybody.
import type { Database, Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';

export const changingVisits = <T>(
  database: Database,
  { observatoryId }: Viewer,
  work: (queries: Queries) => Promise<T>,
): Promise<T> =>
  database.transaction(async (queries) => {
    const result = await work(queries);
    for (const topic of ['observatory', 'plan', 'projects'] as const) await announce(queries, observatoryId, topic);
    return result;
  });
