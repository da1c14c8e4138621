import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Attribution extends Row<Attribution> {
  id: CreationOptional<string>;
  observatoryId: string;
  exposureId: string;
  projectId: string;
  panelId: string;
  goalId: CreationOptional<string | null>;
  creditShare: number;
  reason: string;
  withdrawn: CreationOptional<Date | null>;
  coverage: CreationOptional<number | null>;
  /** Of an exposure that two joined projects wanted: what this one is charged. */
  chargeShare: CreationOptional<number | null>;
}

export const defineAttribution = (sequelize: Sequelize): ModelStatic<Attribution> =>
  sequelize.define<Attribution>(
    'Attribution',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      exposureId: { type: DataTypes.UUID, allowNull: false, references: { model: 'exposures', key: 'id' } },
      projectId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      panelId: { type: DataTypes.UUID, allowNull: false, references: { model: 'panels', key: 'id' } },
      goalId: { type: DataTypes.UUID, references: { model: 'goals', key: 'id' } },
      creditShare: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      reason: { type: DataTypes.TEXT, allowNull: false },
      withdrawn: { type: DataTypes.DATE },
      coverage: { type: DataTypes.DOUBLE, validate: { min: 0, max: 1 } },
      chargeShare: { type: DataTypes.DOUBLE, validate: { min: 0, max: 1 } },
    },
    { tableName: 'attributions' },
  );
