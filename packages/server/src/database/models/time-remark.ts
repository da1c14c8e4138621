import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface TimeRemark extends Row<TimeRemark> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  during: DateRange;
  kind: 'exposing' | 'overhead' | 'waiting' | 'weather' | 'fault' | 'calibration' | 'idle' | 'visit';
  words: string;
  personId: string;
  at: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineTimeRemark = (sequelize: Sequelize): ModelStatic<TimeRemark> =>
  sequelize.define<TimeRemark>(
    'TimeRemark',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['exposing', 'overhead', 'waiting', 'weather', 'fault', 'calibration', 'idle', 'visit']] },
      },
      words: { type: DataTypes.TEXT, allowNull: false },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'time_remarks' },
  );
