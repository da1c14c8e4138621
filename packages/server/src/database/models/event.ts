import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Event extends Row<Event> {
  seq: CreationOptional<string>;
  observatoryId: string;
  topic: string;
  ids: CreationOptional<object>;
  at: CreationOptional<Date>;
}

export const defineEvent = (sequelize: Sequelize): ModelStatic<Event> =>
  sequelize.define<Event>(
    'Event',
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      topic: { type: DataTypes.TEXT, allowNull: false },
      ids: { type: DataTypes.JSONB, allowNull: false, defaultValue: literal("'[]'::jsonb") },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'events' },
  );
