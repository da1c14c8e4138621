import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface LimitValue extends Row<LimitValue> {
  id: CreationOptional<string>;
  observatoryId: string;
  projectId: CreationOptional<string | null>;
  goalId: CreationOptional<string | null>;
  class: CreationOptional<'broadband' | 'narrowband' | 'colour' | null>;
  key: string;
  value: CreationOptional<number | null>;
  isOff: CreationOptional<boolean>;
}

export const defineLimitValue = (sequelize: Sequelize): ModelStatic<LimitValue> =>
  sequelize.define<LimitValue>(
    'LimitValue',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      projectId: { type: DataTypes.UUID, references: { model: 'projects', key: 'id' } },
      goalId: { type: DataTypes.UUID, references: { model: 'goals', key: 'id' } },
      class: { type: DataTypes.TEXT, validate: { isIn: [['broadband', 'narrowband', 'colour']] } },
      key: { type: DataTypes.TEXT, allowNull: false },
      value: { type: DataTypes.DOUBLE },
      isOff: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { tableName: 'limit_values' },
  );
