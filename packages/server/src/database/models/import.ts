import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Import extends Row<Import> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: string;
  source: string;
  state: CreationOptional<'preview' | 'applied' | 'undone'>;
  created: CreationOptional<Date>;
  applied: CreationOptional<Date | null>;
}

export const defineImport = (sequelize: Sequelize): ModelStatic<Import> =>
  sequelize.define<Import>(
    'Import',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      source: { type: DataTypes.TEXT, allowNull: false },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'preview',
        validate: { isIn: [['preview', 'applied', 'undone']] },
      },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      applied: { type: DataTypes.DATE },
    },
    { tableName: 'imports' },
  );
