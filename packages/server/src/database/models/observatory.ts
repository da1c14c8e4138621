import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Observatory extends Row<Observatory> {
  id: CreationOptional<string>;
  name: string;
  latitudeDeg: number;
  longitudeDeg: number;
  elevationM: number;
  timeZone: string;
  zenithMagV: number;
  boundSunAltitudeMaxDeg: CreationOptional<number>;
  boundMountAltitudeMinDeg: CreationOptional<number>;
  boundZenithHoleDeg: CreationOptional<number>;
  version: CreationOptional<number>;
  /** Local clock, minutes after midnight: from then on the published plan of the evening is changed only with a reason. */
  cutOffClockMin: CreationOptional<number>;
  /** Minutes of preparation before the first stay of a night. */
  preparationMin: CreationOptional<number>;
  /** Correlation of a night being clear with the next one being clear. */
  weatherPersistence: CreationOptional<number>;
  climateSource: CreationOptional<string>;
}

export const defineObservatory = (sequelize: Sequelize): ModelStatic<Observatory> =>
  sequelize.define<Observatory>(
    'Observatory',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      name: { type: DataTypes.TEXT, allowNull: false },
      latitudeDeg: { type: DataTypes.DOUBLE, allowNull: false, validate: { max: 90 } },
      longitudeDeg: { type: DataTypes.DOUBLE, allowNull: false, validate: { max: 180 } },
      elevationM: { type: DataTypes.DOUBLE, allowNull: false, validate: { max: 6500 } },
      timeZone: { type: DataTypes.TEXT, allowNull: false },
      zenithMagV: {
        type: DataTypes.DOUBLE,
        allowNull: false,
        validate: { min: 15, max: 22.5 },
        field: 'sky_zenith_mag_v',
      },
      boundSunAltitudeMaxDeg: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: -9, validate: { max: 0 } },
      boundMountAltitudeMinDeg: {
        type: DataTypes.DOUBLE,
        allowNull: false,
        defaultValue: 15,
        validate: { min: 0, max: 80 },
      },
      boundZenithHoleDeg: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0, validate: { min: 0, max: 30 } },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      preparationMin: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 45, validate: { min: 0, max: 480 } },
      cutOffClockMin: {
        type: DataTypes.INTEGER,
        allowNull: false,
        defaultValue: 1020,
        validate: { min: 0, max: 1439 },
      },
      weatherPersistence: {
        type: DataTypes.DOUBLE,
        allowNull: false,
        defaultValue: 0.3,
        validate: { min: 0, max: 0.9 },
      },
      climateSource: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
    },
    { tableName: 'observatories' },
  );
