import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Measurement extends Row<Measurement> {
  exposureId: string;
  /** What found the figures, with its version where it has one. */
  method: CreationOptional<string>;
  measured: CreationOptional<Date>;
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

export const defineMeasurement = (sequelize: Sequelize): ModelStatic<Measurement> =>
  sequelize.define<Measurement>(
    'Measurement',
    {
      exposureId: {
        type: DataTypes.UUID,
        primaryKey: true,
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
      afterMove: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      airmass: { type: DataTypes.DOUBLE, validate: { min: 1 } },
      transparency: { type: DataTypes.DOUBLE, validate: { min: 0, max: 1 } },
      skyRatio: { type: DataTypes.DOUBLE },
      method: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'runner' },
      measured: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'measurements' },
  );
