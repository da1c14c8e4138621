import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Exposure extends Row<Exposure> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigRevisionId: string;
  nightDate: string;
  kind: CreationOptional<'light' | 'flat' | 'dark' | 'bias'>;
  startUtc: Date;
  exposureS: number;
  filterId: CreationOptional<string | null>;
  gain: CreationOptional<number | null>;
  offset: CreationOptional<number | null>;
  binning: number;
  sensorC: CreationOptional<number | null>;
  mechanicalAngleDeg: CreationOptional<number | null>;
  regionWidthPx: CreationOptional<number | null>;
  regionHeightPx: CreationOptional<number | null>;
  runStepId: CreationOptional<string | null>;
  dataSha256: CreationOptional<Buffer | null>;
  pixelsSha256: CreationOptional<Buffer | null>;
  headerKey: CreationOptional<string | null>;
  recorded: CreationOptional<Date>;
  cameraName: CreationOptional<string | null>;
  observerName: CreationOptional<string | null>;
  isTruncated: CreationOptional<boolean>;
  simulated: CreationOptional<boolean>;
}

export const defineExposure = (sequelize: Sequelize): ModelStatic<Exposure> =>
  sequelize.define<Exposure>(
    'Exposure',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigRevisionId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rig_revisions', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'light',
        validate: { isIn: [['light', 'flat', 'dark', 'bias']] },
      },
      startUtc: { type: DataTypes.DATE, allowNull: false },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      filterId: { type: DataTypes.UUID, references: { model: 'filters', key: 'id' } },
      gain: { type: DataTypes.INTEGER },
      offset: { type: DataTypes.INTEGER },
      binning: { type: DataTypes.INTEGER, allowNull: false },
      sensorC: { type: DataTypes.DOUBLE },
      mechanicalAngleDeg: { type: DataTypes.DOUBLE },
      regionWidthPx: { type: DataTypes.INTEGER, validate: { min: 1 } },
      regionHeightPx: { type: DataTypes.INTEGER, validate: { min: 1 } },
      runStepId: { type: DataTypes.UUID, references: { model: 'run_steps', key: 'id' } },
      dataSha256: { type: DataTypes.BLOB },
      pixelsSha256: { type: DataTypes.BLOB },
      headerKey: { type: DataTypes.TEXT },
      recorded: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      cameraName: { type: DataTypes.TEXT },
      observerName: { type: DataTypes.TEXT },
      isTruncated: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      simulated: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { tableName: 'exposures' },
  );
