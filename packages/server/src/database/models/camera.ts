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
  name: CreationOptional<string>;
  sensor: CreationOptional<'mono' | 'colour'>;
  /** Sensor temperature of the dark current, and how many degrees more double it. */
  darkAtC: CreationOptional<number>;
  darkDoublingC: CreationOptional<number>;
  /** How far below the air the cooler reaches; null without one. */
  coolingBelowC: CreationOptional<number | null>;
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
      name: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      sensor: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'mono',
        validate: { isIn: [['mono', 'colour']] },
      },
      darkAtC: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: -10, validate: { min: -80, max: 40 } },
      darkDoublingC: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 6, validate: { min: 2, max: 20 } },
      coolingBelowC: { type: DataTypes.DOUBLE, validate: { min: 0, max: 80 } },
    },
    { tableName: 'cameras' },
  );
