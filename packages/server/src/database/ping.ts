// Whether the database answers, on a connection of its own: a busy pool does not make it look away.
import { Sequelize } from 'sequelize';

const LONGEST_MS = 2_000;

export interface Ping {
  answers(): Promise<boolean>;
  close(): Promise<void>;
}

export function createPing(url: string): Ping {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 1, idle: 60_000, acquire: LONGEST_MS },
    dialectOptions: { statement_timeout: LONGEST_MS, query_timeout: LONGEST_MS, connectionTimeoutMillis: LONGEST_MS },
  });
  return {
    answers: () =>
      sequelize.authenticate({ retry: { max: 0 } } as never).then(
        () => true,
        () => false,
      ),
    close: () => sequelize.close(),
  };
}
