// The queue behind stored jobs, spoken to over the application's own connections, so that a job and its place in the queue are one.
import PgBoss from 'pg-boss';
import type { Database } from '../database/connection.ts';
import { QUEUE_SCHEMA } from '../database/queues.ts';
import type { JobKindName } from './kinds.ts';
import { JOB_KINDS } from './kinds.ts';

/** Sends jobs; a worker also fetches them.
 * @param isWorker whether this one also looks after the queue */
export function createBoss(database: Database, { isWorker = false } = {}): PgBoss {
  return new PgBoss({
    schema: QUEUE_SCHEMA,
    db: {
      executeSql: async (text, values) => {
        const bind = (values ?? []).map((value: unknown) => value ?? null);
        const [rows, result] = await database.sequelize.query(text, { bind, raw: true }).catch(unlessClosed(text));
        return { rows: Array.isArray(rows) ? rows : [], ...(result as object) };
      },
    },
    migrate: false,
    supervise: isWorker,
    schedule: false,
  });
}

/** The queue's own timers may fire once more while everything ends: then nothing was found. */
const unlessClosed =
  (text: string) =>
  (error: Error): [unknown[], object] => {
    if (!/connection manager was closed/.test(error.message)) throw error;
    return [/count\(\*\)/i.test(text) ? [{ count: 0 }] : [], {}];
  };

export const sendJob = (boss: PgBoss, kind: JobKindName, jobId: string): Promise<string | null> =>
  boss.send(kind, { jobId }, { priority: JOB_KINDS[kind].priority });
