// A change of projects: all or nothing, and everybody who looks is told.
import type { Database, Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';

export const changing = <T>(
  database: Database,
  { observatoryId }: Viewer,
  work: (queries: Queries) => Promise<T>,
): Promise<T> =>
  database.transaction(async (queries) => {
    const result = await work(queries);
    for (const topic of ['projects', 'plan'] as const) await announce(queries, observatoryId, topic);
    return result;
  });
