import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface NightPlan extends Row<NightPlan> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  nightDate: string;
  seq: number;
  state: 'published' | 'superseded';
  problemHash: string;
  seed: number;
  iterations: number;
  value: number;
  published: CreationOptional<Date>;
  publishedBy: string;
  reason: CreationOptional<string | null>;
}

export const defineNightPlan = (sequelize: Sequelize): ModelStatic<NightPlan> =>
  sequelize.define<NightPlan>(
    'NightPlan',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      state: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['published', 'superseded']] } },
      problemHash: { type: DataTypes.TEXT, allowNull: false },
      seed: { type: DataTypes.INTEGER, allowNull: false },
      iterations: { type: DataTypes.INTEGER, allowNull: false },
      value: { type: DataTypes.DOUBLE, allowNull: false },
      published: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      publishedBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      reason: { type: DataTypes.TEXT },
    },
    { tableName: 'night_plans' },
  );
