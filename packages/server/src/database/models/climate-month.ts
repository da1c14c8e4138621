import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface ClimateMonth extends Row<ClimateMonth> {
  id: CreationOptional<string>;
  observatoryId: string;
  /** 1 to 12. */
  month: number;
  clearOdds: CreationOptional<number>;
  version: CreationOptional<number>;
}

export const defineClimateMonth = (sequelize: Sequelize): ModelStatic<ClimateMonth> =>
  sequelize.define<ClimateMonth>(
    'ClimateMonth',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      month: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1, max: 12 } },
      clearOdds: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0.5, validate: { min: 0, max: 1 } },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
    },
    { tableName: 'climate_months' },
  );
