import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A way in which a rig's camera is read out; its numbers are dated revisions. */
export interface CameraMode extends Row<CameraMode> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  name: string;
  retired: CreationOptional<Date | null>;
}

export const defineCameraMode = (sequelize: Sequelize): ModelStatic<CameraMode> =>
  sequelize.define<CameraMode>(
    'CameraMode',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      retired: { type: DataTypes.DATE },
    },
    { tableName: 'camera_modes' },
  );
