import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface RigRevision extends Row<RigRevision> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  seq: number;
  during: DateRange;
  cameraId: string;
  apertureMm: number;
  obstructionShare: number;
  focalLengthMm: number;
  throughput: number;
  mountKind: 'german_equatorial' | 'fork_equatorial' | 'alt_azimuth';
  flipBeforeS: number;
  flipAfterS: number;
  mountLimitAfterS: number;
  rotatorKind: 'motor' | 'hand' | 'none';
  angleToleranceDeg: number;
  costs: object;
  /** Outer diameter of the tube that turns with the camera. */
  drawtubeMm: CreationOptional<number | null>;
  /** Diameter of the circle on the sensor within which stars are sharp. */
  correctedCircleMm: CreationOptional<number | null>;
  /** Whether the light meets an even or odd number of mirrors: odd ones turn the sky the other way round. */
  mirrors: CreationOptional<'even' | 'odd'>;
  filterHolder: CreationOptional<'wheel' | 'drawer'>;
  filterPlaces: number;
  stowAltitudeDeg: CreationOptional<number | null>;
  stowAzimuthDeg: CreationOptional<number | null>;
  roofClears: CreationOptional<'any' | 'stowed'>;
}

export const defineRigRevision = (sequelize: Sequelize): ModelStatic<RigRevision> =>
  sequelize.define<RigRevision>(
    'RigRevision',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      cameraId: { type: DataTypes.UUID, allowNull: false, references: { model: 'cameras', key: 'id' } },
      apertureMm: { type: DataTypes.DOUBLE, allowNull: false },
      obstructionShare: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      focalLengthMm: { type: DataTypes.DOUBLE, allowNull: false },
      throughput: { type: DataTypes.DOUBLE, allowNull: false, validate: { max: 1 } },
      mountKind: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['german_equatorial', 'fork_equatorial', 'alt_azimuth']] },
      },
      flipBeforeS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      flipAfterS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      mountLimitAfterS: { type: DataTypes.DOUBLE, allowNull: false },
      rotatorKind: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['motor', 'hand', 'none']] } },
      angleToleranceDeg: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 90 } },
      costs: { type: DataTypes.JSONB, allowNull: false },
      drawtubeMm: { type: DataTypes.DOUBLE },
      correctedCircleMm: { type: DataTypes.DOUBLE },
      mirrors: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'even', validate: { isIn: [['even', 'odd']] } },
      filterHolder: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'wheel',
        validate: { isIn: [['wheel', 'drawer']] },
      },
      filterPlaces: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1, max: 24 } },
      stowAltitudeDeg: { type: DataTypes.DOUBLE, validate: { min: -10, max: 90 } },
      stowAzimuthDeg: { type: DataTypes.DOUBLE, validate: { min: 0, max: 360 } },
      roofClears: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'any',
        validate: { isIn: [['any', 'stowed']] },
      },
    },
    { tableName: 'rig_revisions' },
  );
