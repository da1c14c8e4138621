import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface FilterAlias extends Row<FilterAlias> {
  observatoryId: string;
  name: string;
  filterId: string;
  taughtBy: string;
  taught: CreationOptional<Date>;
}

export const defineFilterAlias = (sequelize: Sequelize): ModelStatic<FilterAlias> =>
  sequelize.define<FilterAlias>(
    'FilterAlias',
    {
      observatoryId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'observatories', key: 'id' },
      },
      name: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      filterId: { type: DataTypes.UUID, allowNull: false, references: { model: 'filters', key: 'id' } },
      taughtBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      taught: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'filter_aliases' },
  );
