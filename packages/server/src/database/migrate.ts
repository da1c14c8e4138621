// Brings a database up to date: forward only, from an explicit list, under an advisory lock so that two servers may start together.
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as foundation from './migrations/2026-11-23-14-00-foundation.ts';
import * as ledger from './migrations/2026-11-23-14-10-ledger.ts';
import * as plans from './migrations/2026-11-23-14-20-plans.ts';
import * as ledgerRows from './migrations/2026-11-23-17-00-ledger-rows.ts';
import * as judging from './migrations/2026-11-23-17-10-judging.ts';
import * as people from './migrations/2026-11-23-17-20-people.ts';
import * as calendarFeeds from './migrations/2026-11-23-21-20-calendar-feeds.ts';
import * as founding from './migrations/2026-11-23-21-00-founding.ts';
import * as framing from './migrations/2026-11-24-00-10-framing.ts';
import * as afternoon from './migrations/2026-11-27-20-40-afternoon.ts';
import * as composing from './migrations/2026-11-24-04-00-composing.ts';
import * as jobs from './migrations/2026-11-28-19-00-jobs.ts';
import * as filterAliases from './migrations/2026-11-28-19-40-filter-aliases.ts';
import * as measuredAgain from './migrations/2026-11-28-20-20-measured-again.ts';
import * as projectsInOrder from './migrations/2026-11-28-21-50-projects-in-order.ts';
import * as pixels from './migrations/2026-11-28-22-40-pixels.ts';
import * as climate from './migrations/2026-11-29-00-10-climate.ts';
import * as shares from './migrations/2026-11-29-03-10-shares.ts';
import * as requests from './migrations/2026-11-29-03-20-requests.ts';
import * as visits from './migrations/2026-11-29-09-00-visits.ts';
import * as softLastNights from './migrations/2026-11-29-12-00-soft-last-nights.ts';
import * as equipment from './migrations/2026-11-29-15-00-equipment.ts';
import * as devices from './migrations/2026-11-29-19-00-devices.ts';
import * as simulated from './migrations/2026-11-29-20-00-simulated.ts';
import * as frames from './migrations/2026-11-29-22-00-frames.ts';
import * as joins from './migrations/2026-11-29-23-00-joins.ts';
import * as messages from './migrations/2026-11-29-23-30-messages.ts';
import * as readings from './migrations/2026-11-30-00-10-readings.ts';
import * as leases from './migrations/2026-11-30-03-10-leases.ts';
import * as frameCopies from './migrations/2026-11-30-03-30-frame-copies.ts';
import * as focusCurves from './migrations/2026-11-30-03-40-focus-curves.ts';
import * as testShots from './migrations/2026-11-30-06-00-test-shots.ts';
import * as moreFigures from './migrations/2026-11-30-08-00-more-figures.ts';
import * as duskCalls from './migrations/2026-11-30-11-00-dusk-calls.ts';
import * as planRequests from './migrations/2026-11-30-13-00-plan-requests.ts';
import * as mechanicalAngle from './migrations/2026-11-30-18-00-mechanical-angle.ts';
import * as starlightRule from './migrations/2026-11-30-10-00-starlight-rule.ts';
import * as learnedTimes from './migrations/2026-11-30-07-30-learned-times.ts';
import * as frameMeasures from './migrations/2026-11-30-07-00-frame-measures.ts';
import * as handOrders from './migrations/2026-11-29-21-00-hand-orders.ts';
import * as callTime from './migrations/2026-11-29-18-00-call-time.ts';
import * as projectOwners from './migrations/2026-11-28-20-00-project-owners.ts';
import * as revisions from './migrations/2026-11-28-19-20-revisions.ts';
import * as safeGround from './migrations/2026-11-28-18-20-safe-ground.ts';
import * as sessions from './migrations/2026-11-28-18-00-sessions.ts';
import * as timeAccount from './migrations/2026-11-23-20-00-time-account.ts';
import * as nightDeliveries from './migrations/2026-11-30-22-00-night-deliveries.ts';
import * as exposureRegions from './migrations/2026-12-01-04-00-exposure-regions.ts';
import * as depthWishes from './migrations/2026-12-01-05-00-depth-wishes.ts';
import * as frameTrails from './migrations/2026-12-01-08-00-frame-trails.ts';
import { ensureQueues } from './queues.ts';

interface Migration {
  readonly name: string;
  readonly up: string;
}

export const MIGRATIONS: readonly Migration[] = [
  foundation,
  ledger,
  plans,
  ledgerRows,
  judging,
  people,
  timeAccount,
  founding,
  calendarFeeds,
  framing,
  composing,
  afternoon,
  sessions,
  safeGround,
  jobs,
  revisions,
  filterAliases,
  projectOwners,
  measuredAgain,
  projectsInOrder,
  pixels,
  climate,
  shares,
  requests,
  visits,
  softLastNights,
  equipment,
  callTime,
  devices,
  simulated,
  handOrders,
  frames,
  joins,
  messages,
  readings,
  leases,
  frameCopies,
  focusCurves,
  testShots,
  frameMeasures,
  learnedTimes,
  moreFigures,
  starlightRule,
  duskCalls,
  planRequests,
  mechanicalAngle,
  nightDeliveries,
  exposureRegions,
  depthWishes,
  frameTrails,
];

/** One number for this application's migration lock. */
const LOCK = 417_031;

/** @param appRole the role the application connects as; it gets what it needs and no more
 * @returns the names of the migrations that ran */
export async function migrate(ownerUrl: string, app: { role: string; password: string }): Promise<string[]> {
  const sequelize = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false, pool: { max: 1 } });
  try {
    await sequelize.query(`SELECT pg_advisory_lock(${LOCK})`);
    await ensureRole(sequelize, app);
    const umzug = new Umzug({
      migrations: MIGRATIONS.map(({ name, up }) => ({
        name,
        up: () => sequelize.transaction((transaction) => sequelize.query(up, { transaction })),
      })),
      storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
      context: sequelize,
      logger: undefined,
    });
    const ran = await umzug.up();
    await ensureQueues(sequelize, app.role);
    await sequelize.query(grants(app.role));
    return ran.map(({ name }) => name);
  } finally {
    await sequelize.query(`SELECT pg_advisory_unlock(${LOCK})`).catch(() => undefined);
    await sequelize.close();
  }
}

async function ensureRole(sequelize: Sequelize, { role, password }: { role: string; password: string }): Promise<void> {
  if (!/^[a-z_][a-z0-9_]*$/.test(role)) throw new Error(`"${role}" is no role name`);
  const secret = sequelize.escape(password);
  await sequelize.query(
    `DO $$ BEGIN IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = '${role}') THEN CREATE ROLE ${role} LOGIN; END IF; END $$;
     ALTER ROLE ${role} LOGIN PASSWORD ${secret};`,
  );
}

/** Tables whose rows are history: read and insert only. */
export const HISTORY_TABLES = [
  'exposures',
  'measurements',
  'verdicts',
  'exposure_presence',
  'rule_revisions',
  'changes',
  'panel_pointings',
  'recipe_revisions',
  'nights',
  'night_closings',
  'time_entries',
  'orbits',
] as const;
/** Tables that triggers own: read only. */
export const DERIVED_TABLES = [
  'goal_totals',
  'ledger_rows',
  'ledger_tallies',
  'earlier_measurements',
  'project_owners',
] as const;

const grants = (role: string): string => `
  GRANT USAGE ON SCHEMA public TO ${role};
  GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO ${role};
  GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO ${role};
  REVOKE UPDATE, DELETE ON ${HISTORY_TABLES.join(', ')} FROM ${role};
  REVOKE INSERT, UPDATE, DELETE ON ${DERIVED_TABLES.join(', ')} FROM ${role};
  REVOKE DELETE ON attributions FROM ${role};
  REVOKE ALL ON migrations FROM ${role};`;
