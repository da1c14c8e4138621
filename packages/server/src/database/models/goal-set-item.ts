import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface GoalSetItem extends Row<GoalSetItem> {
  setId: string;
  observatoryId: string;
  position: number;
  recipeId: string;
  wanted: CreationOptional<number | null>;
}

export const defineGoalSetItem = (sequelize: Sequelize): ModelStatic<GoalSetItem> =>
  sequelize.define<GoalSetItem>(
    'GoalSetItem',
    {
      setId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'goal_sets', key: 'id' },
      },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      position: { type: DataTypes.INTEGER, primaryKey: true, allowNull: false },
      recipeId: { type: DataTypes.UUID, allowNull: false, references: { model: 'recipes', key: 'id' } },
      wanted: { type: DataTypes.INTEGER, validate: { min: 0 } },
    },
    { tableName: 'goal_set_items' },
  );
