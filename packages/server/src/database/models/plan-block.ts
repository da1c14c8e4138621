import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface PlanBlock extends Row<PlanBlock> {
  id: CreationOptional<string>;
  observatoryId: string;
  planId: string;
  position: number;
  panelId: string;
  during: DateRange;
}

export const definePlanBlock = (sequelize: Sequelize): ModelStatic<PlanBlock> =>
  sequelize.define<PlanBlock>(
    'PlanBlock',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      planId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_plans', key: 'id' } },
      position: { type: DataTypes.INTEGER, allowNull: false },
      panelId: { type: DataTypes.UUID, allowNull: false, references: { model: 'panels', key: 'id' } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
    },
    { tableName: 'plan_blocks' },
  );
