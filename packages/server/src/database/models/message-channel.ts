import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export type Reach = 'none' | 'danger' | 'all';

/** How a person is reached outside the application. */
export interface MessageChannel extends Row<MessageChannel> {
  observatoryId: string;
  personId: string;
  email: CreationOptional<Reach>;
  webhook: CreationOptional<Reach>;
  webhookUrl: CreationOptional<string | null>;
  quietFromMin: CreationOptional<number | null>;
  quietToMin: CreationOptional<number | null>;
}

// One description for each column: Sequelize writes into it.
const reach = () => ({
  type: DataTypes.TEXT,
  allowNull: false,
  defaultValue: 'none',
  validate: { isIn: [['none', 'danger', 'all']] },
});
const minute = () => ({ type: DataTypes.INTEGER, validate: { min: 0, max: 1439 } });

export const defineMessageChannel = (sequelize: Sequelize): ModelStatic<MessageChannel> =>
  sequelize.define<MessageChannel>(
    'MessageChannel',
    {
      observatoryId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'observatories', key: 'id' } }, // prettier-ignore
      personId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'people', key: 'id' } }, // prettier-ignore
      email: reach(),
      webhook: reach(),
      webhookUrl: { type: DataTypes.TEXT },
      quietFromMin: minute(),
      quietToMin: minute(),
    },
    { tableName: 'message_channels' },
  );
