import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface RecipeRevision extends Row<RecipeRevision> {
  id: CreationOptional<string>;
  observatoryId: string;
  recipeId: string;
  seq: number;
  cameraModeId: string;
  exposureS: number;
  offset: number;
  binning: number;
  sensorC: number;
  pauseS: number;
  ditherEvery: number;
  ditherPx: CreationOptional<number>;
  /** The middle of the sensor that is read; null for all of it. */
  regionWidthPx: CreationOptional<number | null>;
  regionHeightPx: CreationOptional<number | null>;
  created: CreationOptional<Date>;
}

export const defineRecipeRevision = (sequelize: Sequelize): ModelStatic<RecipeRevision> =>
  sequelize.define<RecipeRevision>(
    'RecipeRevision',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      recipeId: { type: DataTypes.UUID, allowNull: false, references: { model: 'recipes', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      cameraModeId: { type: DataTypes.UUID, allowNull: false, references: { model: 'camera_modes', key: 'id' } },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false, validate: { max: 7200 } },
      offset: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 0 } },
      binning: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1, max: 4 } },
      sensorC: { type: DataTypes.DOUBLE, allowNull: false },
      pauseS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      ditherEvery: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 0 } },
      ditherPx: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 5, validate: { min: 0, max: 200 } },
      regionWidthPx: { type: DataTypes.INTEGER, validate: { min: 1 } },
      regionHeightPx: { type: DataTypes.INTEGER, validate: { min: 1 } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'recipe_revisions' },
  );
