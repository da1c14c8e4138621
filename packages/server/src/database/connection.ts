// One connection pool: models, and behind a small typed surface the queries that say more than a model can.
import { AsyncLocalStorage } from 'node:async_hooks';
import { QueryTypes, Sequelize } from 'sequelize';
import type { Models } from './models/index.ts';
import { defineModels } from './models/index.ts';

export type Row = Record<string, unknown>;

/** Runs SQL with bound parameters ($1, $2, …), and reads and writes rows through models. */
export interface Queries {
  readonly models: Models;
  /** All rows of a query. */
  rows<T extends object = Row>(sql: string, bind?: readonly unknown[]): Promise<T[]>;
  /** The first row, or null. */
  one<T extends object = Row>(sql: string, bind?: readonly unknown[]): Promise<T | null>;
}

export interface Database extends Queries {
  readonly sequelize: Sequelize;
  /** All or nothing: every statement made within the callback, through whichever surface, is part of it; one begun within
   * another joins it. */
  transaction<T>(work: (queries: Queries) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

export interface ConnectionLimits {
  readonly connections: number;
  /** How long a request waits for a free connection. */
  readonly acquireMs: number;
  readonly statementMs: number;
  /** How long a statement waits for a row that somebody else is changing. */
  readonly lockMs: number;
}

export const DEFAULT_CONNECTION_LIMITS: ConnectionLimits = {
  connections: 12,
  acquireMs: 5_000,
  statementMs: 30_000,
  lockMs: 1_000,
};

/** For commands and tests: a busy machine may take its time to connect, no request hangs on it. */
export const UNHURRIED: Partial<ConnectionLimits> = { acquireMs: 60_000 };

const SILENCE_MS = 1_000;

// What Sequelize asks for the transaction under way: nothing within one can take a second connection by oversight.
const scope = new AsyncLocalStorage<Map<string, unknown>>();
Sequelize.useCLS({
  run: (work: (context: unknown) => unknown) => scope.run(new Map(), () => work(undefined)),
  bind: <T>(work: T): T => work,
  get: (key: string): unknown => scope.getStore()?.get(key),
  set: (key: string, value: unknown): void => void scope.getStore()?.set(key, value),
});

/** Whether a transaction is under way where this is asked. */
export const isInTransaction = (): boolean => Boolean(scope.getStore()?.get('transaction'));

export function createDatabase(url: string, limits: Partial<ConnectionLimits> = {}): Database {
  const { connections, acquireMs, statementMs, lockMs } = { ...DEFAULT_CONNECTION_LIMITS, ...limits };
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    define: { underscored: true, timestamps: false, freezeTableName: true },
    pool: { max: connections, idle: 10_000, acquire: acquireMs },
    dialectOptions: {
      statement_timeout: statementMs,
      // A server that has fallen silent does not count its own time.
      query_timeout: statementMs + SILENCE_MS,
      lock_timeout: lockMs,
      connectionTimeoutMillis: acquireMs,
    },
  });
  const rows = <T extends object>(sql: string, bind: readonly unknown[] = []): Promise<T[]> =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT, bind: bind as unknown[] });
  const queries: Queries = {
    models: defineModels(sequelize),
    rows,
    one: async <T extends object>(sql: string, bind: readonly unknown[] = []) => (await rows<T>(sql, bind))[0] ?? null,
  };
  return {
    ...queries,
    sequelize,
    transaction: (work) => (isInTransaction() ? work(queries) : sequelize.transaction(() => work(queries))),
    close: () => sequelize.close(),
  };
}
