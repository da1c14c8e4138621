import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Filter extends Row<Filter> {
  id: CreationOptional<string>;
  observatoryId: string;
  letter: string;
  name: string;
  class: 'broadband' | 'narrowband' | 'colour';
  centreNm: number;
  widthNm: number;
  extinctionMagPerAirmass: number;
  zenithMag: number;
  moonFactor: number;
  position: CreationOptional<number>;
  version: CreationOptional<number>;
  retired: CreationOptional<Date | null>;
}

export const defineFilter = (sequelize: Sequelize): ModelStatic<Filter> =>
  sequelize.define<Filter>(
    'Filter',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      letter: { type: DataTypes.TEXT, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      class: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['broadband', 'narrowband', 'colour']] } },
      centreNm: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 300, max: 1200 } },
      widthNm: { type: DataTypes.DOUBLE, allowNull: false },
      extinctionMagPerAirmass: {
        type: DataTypes.DOUBLE,
        allowNull: false,
        validate: { min: 0 },
        field: 'extinction_mag',
      },
      zenithMag: { type: DataTypes.DOUBLE, allowNull: false, field: 'sky_zenith_mag' },
      moonFactor: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      position: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      retired: { type: DataTypes.DATE },
    },
    { tableName: 'filters' },
  );
