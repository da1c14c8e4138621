import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface EarlierMeasurement extends Row<EarlierMeasurement> {
  seq: CreationOptional<string>;
  exposureId: string;
  /** What found the figures, with its version where it has one. */
  method: string;
  measured: Date;
  halfFluxRadiusPx: CreationOptional<number | null>;
  starCount: CreationOptional<number | null>;
  guidingRmsArcsec: CreationOptional<number | null>;
  backgroundE: CreationOptional<number | null>;
  elongation: CreationOptional<number | null>;
  temperatureC: CreationOptional<number | null>;
  ratePredicted: CreationOptional<number | null>;
  rateMeasured: CreationOptional<number | null>;
  afterMove: CreationOptional<boolean>;
  airmass: CreationOptional<number | null>;
  transparency: CreationOptional<number | null>;
  skyRatio: CreationOptional<number | null>;
}

export const defineEarlierMeasurement = (sequelize: Sequelize): ModelStatic<EarlierMeasurement> =>
  sequelize.define<EarlierMeasurement>(
    'EarlierMeasurement',
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, allowNull: false, autoIncrement: true },
      exposureId: {
        type: DataTypes.UUID,
        allowNull: false,
        references: { model: 'exposures', key: 'id' },
      },
      halfFluxRadiusPx: { type: DataTypes.DOUBLE },
      starCount: { type: DataTypes.INTEGER, validate: { min: 0 } },
      guidingRmsArcsec: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      backgroundE: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      elongation: { type: DataTypes.DOUBLE },
      temperatureC: { type: DataTypes.DOUBLE },
      ratePredicted: { type: DataTypes.DOUBLE },
      rateMeasured: { type: DataTypes.DOUBLE },
      afterMove: { type: DataTypes.BOOLEAN, allowNull: false },
      airmass: { type: DataTypes.DOUBLE, validate: { min: 1 } },
      transparency: { type: DataTypes.DOUBLE, validate: { min: 0, max: 1 } },
      skyRatio: { type: DataTypes.DOUBLE },
      method: { type: DataTypes.TEXT, allowNull: false },
      measured: { type: DataTypes.DATE, allowNull: false },
    },
    { tableName: 'earlier_measurements' },
  );
