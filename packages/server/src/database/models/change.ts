import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Change extends Row<Change> {
  id: CreationOptional<string>;
  observatoryId: string;
  at: CreationOptional<Date>;
  personId: string;
  entity: string;
  entityId: string;
  projectId: CreationOptional<string | null>;
  words: string;
  before: object;
  after: object;
  undoOf: CreationOptional<string | null>;
}

export const defineChange = (sequelize: Sequelize): ModelStatic<Change> =>
  sequelize.define<Change>(
    'Change',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      entity: { type: DataTypes.TEXT, allowNull: false },
      entityId: { type: DataTypes.UUID, allowNull: false },
      projectId: { type: DataTypes.UUID },
      words: { type: DataTypes.TEXT, allowNull: false },
      before: { type: DataTypes.JSONB, allowNull: false },
      after: { type: DataTypes.JSONB, allowNull: false },
      undoOf: { type: DataTypes.BIGINT, references: { model: 'changes', key: 'id' } },
    },
    { tableName: 'changes' },
  );
