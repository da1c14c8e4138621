import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface CameraMode extends Row<CameraMode> {
  id: CreationOptional<string>;
  observatoryId: string;
  cameraId: string;
  name: string;
  gain: number;
  readNoiseE: number;
  fullWellE: number;
}

export const defineCameraMode = (sequelize: Sequelize): ModelStatic<CameraMode> =>
  sequelize.define<CameraMode>(
    'CameraMode',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      cameraId: { type: DataTypes.UUID, allowNull: false, references: { model: 'cameras', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      gain: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 0 } },
      readNoiseE: { type: DataTypes.DOUBLE, allowNull: false },
      fullWellE: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { tableName: 'camera_modes' },
  );
