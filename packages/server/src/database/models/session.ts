import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface Session extends Row<Session> {
  sid: string;
  personId: CreationOptional<string | null>;
  content: unknown;
  expires: Date;
}

export const defineSession = (sequelize: Sequelize): ModelStatic<Session> =>
  sequelize.define<Session>(
    'Session',
    {
      sid: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      personId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      content: { type: DataTypes.JSONB, allowNull: false },
      expires: { type: DataTypes.DATE, allowNull: false },
    },
    { tableName: 'sessions' },
  );
