import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Recipe extends Row<Recipe> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  filterId: string;
  name: string;
}

export const defineRecipe = (sequelize: Sequelize): ModelStatic<Recipe> =>
  sequelize.define<Recipe>(
    'Recipe',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      filterId: { type: DataTypes.UUID, allowNull: false, references: { model: 'filters', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
    },
    { tableName: 'recipes' },
  );
