import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

/** A night that is closed anew gets a further row; the newest is in force. */
export interface NightClosing extends Row<NightClosing> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  nightDate: string;
  seq: number;
  night: DateRange;
  chargeDark: number;
  chargeBright: number;
  closed: CreationOptional<Date>;
  closedBy: string;
}

export const defineNightClosing = (sequelize: Sequelize): ModelStatic<NightClosing> =>
  sequelize.define<NightClosing>(
    'NightClosing',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false, references: { model: 'nights', key: 'night_date' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      night: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      chargeDark: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 10 } },
      chargeBright: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 10 } },
      closed: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      closedBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
    },
    { tableName: 'night_closings' },
  );
