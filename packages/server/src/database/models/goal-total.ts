import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface GoalTotal extends Row<GoalTotal> {
  goalId: string;
  accepted: number;
  undecided: number;
  rejected: number;
  acceptedS: number;
  undecidedS: number;
  rejectedS: number;
  effectiveS: number;
  exposureCount: number;
}

export const defineGoalTotal = (sequelize: Sequelize): ModelStatic<GoalTotal> =>
  sequelize.define<GoalTotal>(
    'GoalTotal',
    {
      goalId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'goals', key: 'id' } },
      accepted: { type: DataTypes.DOUBLE, allowNull: false },
      undecided: { type: DataTypes.DOUBLE, allowNull: false },
      rejected: { type: DataTypes.DOUBLE, allowNull: false },
      acceptedS: { type: DataTypes.DOUBLE, allowNull: false },
      undecidedS: { type: DataTypes.DOUBLE, allowNull: false },
      rejectedS: { type: DataTypes.DOUBLE, allowNull: false },
      effectiveS: { type: DataTypes.DOUBLE, allowNull: false },
      exposureCount: { type: DataTypes.INTEGER, allowNull: false },
    },
    { tableName: 'goal_totals' },
  );
