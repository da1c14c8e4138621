// One connection pool behind a small typed surface: rows out, parameters bound, transactions by callback.
import type { Transaction } from 'sequelize';
import { QueryTypes, Sequelize } from 'sequelize';

export type Row = Record<string, unknown>;

/** Runs SQL with bound parameters ($1, $2, …). */
export interface Queries {
  /** All rows of a query. */
  rows<T extends object = Row>(sql: string, bind?: readonly unknown[]): Promise<T[]>;
  /** The first row, or null. */
  one<T extends object = Row>(sql: string, bind?: readonly unknown[]): Promise<T | null>;
}

export interface Database extends Queries {
  readonly sequelize: Sequelize;
  /** All or nothing; the callback's queries go through its own argument. */
  transaction<T>(work: (queries: Queries) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

export function createDatabase(url: string): Database {
  const sequelize = new Sequelize(url, { dialect: 'postgres', logging: false, pool: { max: 12, idle: 10_000 } });
  return {
    sequelize,
    ...queriesOn(sequelize),
    transaction: (work) => sequelize.transaction((transaction) => work(queriesOn(sequelize, transaction))),
    close: () => sequelize.close(),
  };
}

function queriesOn(sequelize: Sequelize, transaction?: Transaction): Queries {
  const rows = <T extends object>(sql: string, bind: readonly unknown[] = []): Promise<T[]> =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT, bind: bind as unknown[], transaction });
  return {
    rows,
    one: async <T extends object>(sql: string, bind: readonly unknown[] = []) => (await rows<T>(sql, bind))[0] ?? null,
  };
}
