import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Goal extends Row<Goal> {
  id: CreationOptional<string>;
  observatoryId: string;
  panelId: string;
  recipeRevisionId: string;
  /** Null wants without end. What is done or left is always derived from the ledger. */
  wanted: CreationOptional<number | null>;
  why: CreationOptional<string | null>;
  enabled: CreationOptional<boolean>;
  position: number;
  version: CreationOptional<number>;
}

export const defineGoal = (sequelize: Sequelize): ModelStatic<Goal> =>
  sequelize.define<Goal>(
    'Goal',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      panelId: { type: DataTypes.UUID, allowNull: false, references: { model: 'panels', key: 'id' } },
      recipeRevisionId: {
        type: DataTypes.UUID,
        allowNull: false,
        references: { model: 'recipe_revisions', key: 'id' },
      },
      wanted: { type: DataTypes.INTEGER, validate: { min: 0 } },
      why: { type: DataTypes.TEXT },
      enabled: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      position: { type: DataTypes.INTEGER, allowNull: false },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
    },
    { tableName: 'goals' },
  );
