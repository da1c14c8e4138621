import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface TimeEntry extends Row<TimeEntry> {
  id: CreationOptional<string>;
  observatoryId: string;
  closingId: string;
  night: DateRange;
  during: DateRange;
  kind: 'exposing' | 'overhead' | 'waiting' | 'weather' | 'fault' | 'calibration' | 'idle' | 'visit';
  skyClass: 'dark' | 'bright' | 'day';
  projectId: CreationOptional<string | null>;
  memberId: CreationOptional<string | null>;
  exposureId: CreationOptional<string | null>;
  remarkId: CreationOptional<string | null>;
}

export const defineTimeEntry = (sequelize: Sequelize): ModelStatic<TimeEntry> =>
  sequelize.define<TimeEntry>(
    'TimeEntry',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      closingId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_closings', key: 'id' } },
      night: {
        type: DataTypes.RANGE(DataTypes.DATE),
        allowNull: false,
        references: { model: 'night_closings', key: 'night' },
      },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['exposing', 'overhead', 'waiting', 'weather', 'fault', 'calibration', 'idle', 'visit']] },
      },
      skyClass: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['dark', 'bright', 'day']] } },
      projectId: { type: DataTypes.UUID, references: { model: 'projects', key: 'id' } },
      memberId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      exposureId: { type: DataTypes.UUID, references: { model: 'exposures', key: 'id' } },
      remarkId: { type: DataTypes.UUID, references: { model: 'time_remarks', key: 'id' } },
    },
    { tableName: 'time_entries' },
  );
