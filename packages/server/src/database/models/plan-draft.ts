import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

/** The runs that a night's working plan stays near to since its last hand change. */
export interface PlanDraft extends Row<PlanDraft> {
  observatoryId: string;
  rigId: string;
  nightDate: string;
  kept: object;
}

export const definePlanDraft = (sequelize: Sequelize): ModelStatic<PlanDraft> =>
  sequelize.define<PlanDraft>(
    'PlanDraft',
    {
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'rigs', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, primaryKey: true, allowNull: false },
      kept: { type: DataTypes.JSONB, allowNull: false },
    },
    { tableName: 'plan_drafts' },
  );
