import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface PlanRun extends Row<PlanRun> {
  id: CreationOptional<string>;
  observatoryId: string;
  blockId: string;
  position: number;
  goalId: string;
  startUtc: Date;
  endUtc: Date;
  exposureS: number;
  exposureStarts: readonly Date[];
  meanRateShare: number;
}

export const definePlanRun = (sequelize: Sequelize): ModelStatic<PlanRun> =>
  sequelize.define<PlanRun>(
    'PlanRun',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      blockId: { type: DataTypes.UUID, allowNull: false, references: { model: 'plan_blocks', key: 'id' } },
      position: { type: DataTypes.INTEGER, allowNull: false },
      goalId: { type: DataTypes.UUID, allowNull: false, references: { model: 'goals', key: 'id' } },
      startUtc: { type: DataTypes.DATE, allowNull: false },
      endUtc: { type: DataTypes.DATE, allowNull: false },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false },
      exposureStarts: { type: DataTypes.ARRAY(DataTypes.DATE), allowNull: false },
      meanRateShare: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { tableName: 'plan_runs' },
  );
