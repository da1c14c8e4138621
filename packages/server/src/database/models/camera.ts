import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Camera extends Row<Camera> {
  id: CreationOptional<string>;
  observatoryId: string;
  serial: string;
  widthPx: number;
  heightPx: number;
  pixelUm: number;
  darkCurrentEPerS: number;
}

export const defineCamera = (sequelize: Sequelize): ModelStatic<Camera> =>
  sequelize.define<Camera>(
    'Camera',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      serial: { type: DataTypes.TEXT, allowNull: false },
      widthPx: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      heightPx: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      pixelUm: { type: DataTypes.DOUBLE, allowNull: false },
      darkCurrentEPerS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
    },
    { tableName: 'cameras' },
  );
