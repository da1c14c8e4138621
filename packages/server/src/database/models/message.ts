import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A notice on its way out of the application. */
export interface Message extends Row<Message> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: string;
  noticeId: string;
  channel: 'email' | 'webhook';
  state: CreationOptional<'waiting' | 'sending' | 'sent' | 'failed'>;
  due: CreationOptional<Date>;
  tries: CreationOptional<number>;
  taken: CreationOptional<Date | null>;
  sent: CreationOptional<Date | null>;
  problem: CreationOptional<string | null>;
}

export const defineMessage = (sequelize: Sequelize): ModelStatic<Message> =>
  sequelize.define<Message>(
    'Message',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      noticeId: { type: DataTypes.BIGINT, allowNull: false, references: { model: 'notices', key: 'id' } },
      channel: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['email', 'webhook']] } },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'waiting',
        validate: { isIn: [['waiting', 'sending', 'sent', 'failed']] },
      },
      due: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      tries: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      taken: { type: DataTypes.DATE },
      sent: { type: DataTypes.DATE },
      problem: { type: DataTypes.TEXT },
    },
    { tableName: 'messages' },
  );
