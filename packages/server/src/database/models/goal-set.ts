import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface GoalSet extends Row<GoalSet> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  name: string;
  createdBy: string;
}

export const defineGoalSet = (sequelize: Sequelize): ModelStatic<GoalSet> =>
  sequelize.define<GoalSet>(
    'GoalSet',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      createdBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
    },
    { tableName: 'goal_sets' },
  );
