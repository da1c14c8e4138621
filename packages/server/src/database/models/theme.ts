import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Theme extends Row<Theme> {
  id: CreationOptional<string>;
  observatoryId: string;
  name: string;
  take: 'any' | 'all';
}

export const defineTheme = (sequelize: Sequelize): ModelStatic<Theme> =>
  sequelize.define<Theme>(
    'Theme',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      take: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['any', 'all']] } },
    },
    { tableName: 'themes' },
  );
