import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Recipe extends Row<Recipe> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  kind: CreationOptional<'light' | 'dark' | 'flat' | 'bias' | 'test'>;
  /** Null where no light comes in: dark and bias. */
  filterId: string | null;
  name: string;
  /** The member whose own it is; null for everybody's. */
  ownerId: CreationOptional<string | null>;
  retired: CreationOptional<Date | null>;
}

export const defineRecipe = (sequelize: Sequelize): ModelStatic<Recipe> =>
  sequelize.define<Recipe>(
    'Recipe',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'light',
        validate: { isIn: [['light', 'dark', 'flat', 'bias', 'test']] },
      },
      filterId: { type: DataTypes.UUID, references: { model: 'filters', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      ownerId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      retired: { type: DataTypes.DATE },
    },
    { tableName: 'recipes' },
  );
