import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface PlanOmission extends Row<PlanOmission> {
  planId: string;
  observatoryId: string;
  goalId: string;
  code: string;
  numbers: object;
  rivalGoalId: CreationOptional<string | null>;
}

export const definePlanOmission = (sequelize: Sequelize): ModelStatic<PlanOmission> =>
  sequelize.define<PlanOmission>(
    'PlanOmission',
    {
      planId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'night_plans', key: 'id' },
      },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      goalId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'goals', key: 'id' } },
      code: { type: DataTypes.TEXT, allowNull: false },
      numbers: { type: DataTypes.JSONB, allowNull: false },
      rivalGoalId: { type: DataTypes.UUID, references: { model: 'goals', key: 'id' } },
    },
    { tableName: 'plan_omissions' },
  );
