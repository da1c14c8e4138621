import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface HandChange extends Row<HandChange> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  nightDate: string;
  kind: 'pin' | 'ban' | 'not_before' | 'not_after';
  goalId: CreationOptional<string | null>;
  panelId: CreationOptional<string | null>;
  at: CreationOptional<Date | null>;
  count: CreationOptional<number | null>;
  created: CreationOptional<Date>;
  createdBy: string;
}

export const defineHandChange = (sequelize: Sequelize): ModelStatic<HandChange> =>
  sequelize.define<HandChange>(
    'HandChange',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      kind: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['pin', 'ban', 'not_before', 'not_after']] } },
      goalId: { type: DataTypes.UUID, references: { model: 'goals', key: 'id' } },
      panelId: { type: DataTypes.UUID, references: { model: 'panels', key: 'id' } },
      at: { type: DataTypes.DATE },
      count: { type: DataTypes.INTEGER, validate: { min: 1 } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      createdBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
    },
    { tableName: 'plan_wishes' },
  );
