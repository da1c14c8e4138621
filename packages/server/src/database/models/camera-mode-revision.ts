import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface CameraModeRevision extends Row<CameraModeRevision> {
  id: CreationOptional<string>;
  observatoryId: string;
  cameraModeId: string;
  seq: number;
  during: DateRange;
  gain: number;
  gainKind: CreationOptional<'gain' | 'sensitivity'>;
  readNoiseE: number;
  fullWellE: number;
  ePerAdu: CreationOptional<number | null>;
  typicalOffset: CreationOptional<number>;
}

export const defineCameraModeRevision = (sequelize: Sequelize): ModelStatic<CameraModeRevision> =>
  sequelize.define<CameraModeRevision>(
    'CameraModeRevision',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      cameraModeId: { type: DataTypes.UUID, allowNull: false, references: { model: 'camera_modes', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      gain: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 0 } },
      gainKind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'gain',
        validate: { isIn: [['gain', 'sensitivity']] },
      },
      readNoiseE: { type: DataTypes.DOUBLE, allowNull: false },
      fullWellE: { type: DataTypes.DOUBLE, allowNull: false },
      ePerAdu: { type: DataTypes.DOUBLE },
      typicalOffset: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 30, validate: { min: 0 } },
    },
    { tableName: 'camera_mode_revisions' },
  );
