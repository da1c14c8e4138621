// The job queue's own tables, made and kept up to date by the owner; the application's role uses them only.
import PgBoss from 'pg-boss';
import type { Sequelize } from 'sequelize';
import { QueryTypes } from 'sequelize';
import { JOB_KINDS } from '../jobs/kinds.ts';

export const QUEUE_SCHEMA = 'pgboss';

export async function ensureQueues(sequelize: Sequelize, role: string): Promise<void> {
  const [{ there }] = await sequelize.query<{ there: boolean }>(
    `SELECT to_regclass('${QUEUE_SCHEMA}.version') IS NOT NULL AS there`,
    { type: QueryTypes.SELECT },
  );
  if (!there) await sequelize.query(PgBoss.getConstructionPlans(QUEUE_SCHEMA));
  for (const [kind, { longestSec }] of Object.entries(JOB_KINDS)) {
    const options = { policy: 'standard', retryLimit: 3, retryDelay: 1, expireInSeconds: longestSec };
    await sequelize.query(`SELECT ${QUEUE_SCHEMA}.create_queue($1, $2)`, { bind: [kind, JSON.stringify(options)] });
  }
  await sequelize.query(
    `GRANT USAGE ON SCHEMA ${QUEUE_SCHEMA} TO ${role};
     GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA ${QUEUE_SCHEMA} TO ${role};
     GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA ${QUEUE_SCHEMA} TO ${role};`,
  );
}
