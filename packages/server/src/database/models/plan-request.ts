import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { NightRequest } from '@meridiem/core';
import type { Row } from './row.ts';

export interface PlanRequest extends Row<PlanRequest> {
  observatoryId: string;
  planId: string;
  request: NightRequest;
}

export const definePlanRequest = (sequelize: Sequelize): ModelStatic<PlanRequest> =>
  sequelize.define<PlanRequest>(
    'PlanRequest',
    {
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      planId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'night_plans', key: 'id' },
      },
      request: { type: DataTypes.JSONB, allowNull: false },
    },
    { tableName: 'plan_requests' },
  );
