import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A row is inserted by signing in alone; whatever else writes finds it or leaves it ended. */
export interface Session extends Row<Session> {
  id: CreationOptional<string>;
  tokenSha256: Buffer;
  personId: string;
  begun: CreationOptional<Date>;
  seen: CreationOptional<Date>;
  expires: Date;
  agent: string;
  address: string;
}

export const defineSession = (sequelize: Sequelize): ModelStatic<Session> =>
  sequelize.define<Session>(
    'Session',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      tokenSha256: { type: DataTypes.BLOB, allowNull: false },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      begun: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      seen: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      expires: { type: DataTypes.DATE, allowNull: false },
      agent: { type: DataTypes.TEXT, allowNull: false },
      address: { type: DataTypes.TEXT, allowNull: false },
    },
    { tableName: 'sessions' },
  );
