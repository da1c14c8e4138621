import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface CalendarFeed extends Row<CalendarFeed> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: string;
  tokenSha256: Buffer;
  made: CreationOptional<Date>;
  revoked: CreationOptional<Date | null>;
}

export const defineCalendarFeed = (sequelize: Sequelize): ModelStatic<CalendarFeed> =>
  sequelize.define<CalendarFeed>(
    'CalendarFeed',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      tokenSha256: { type: DataTypes.BLOB, allowNull: false },
      made: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      revoked: { type: DataTypes.DATE },
    },
    { tableName: 'calendar_feeds' },
  );
