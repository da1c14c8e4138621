import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface RunReading extends Row<RunReading> {
  runId: string;
  observatoryId: string;
  at: Date;
  safe: boolean;
  temperatureC: CreationOptional<number | null>;
  humidityPercent: CreationOptional<number | null>;
  windMPerS: CreationOptional<number | null>;
  cloudCoverPercent: CreationOptional<number | null>;
  sensorC: CreationOptional<number | null>;
  coolerPowerPercent: CreationOptional<number | null>;
  guidingRmsArcsec: CreationOptional<number | null>;
  altitudeDeg: CreationOptional<number | null>;
  azimuthDeg: CreationOptional<number | null>;
  parked: CreationOptional<boolean | null>;
  roof: CreationOptional<'open' | 'closed' | 'moving' | null>;
}

export const defineRunReading = (sequelize: Sequelize): ModelStatic<RunReading> =>
  sequelize.define<RunReading>(
    'RunReading',
    {
      runId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'night_runs', key: 'id' },
      },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      at: { type: DataTypes.DATE, primaryKey: true, allowNull: false },
      safe: { type: DataTypes.BOOLEAN, allowNull: false },
      temperatureC: { type: DataTypes.DOUBLE },
      humidityPercent: { type: DataTypes.DOUBLE },
      windMPerS: { type: DataTypes.DOUBLE },
      cloudCoverPercent: { type: DataTypes.DOUBLE },
      sensorC: { type: DataTypes.DOUBLE },
      coolerPowerPercent: { type: DataTypes.DOUBLE },
      guidingRmsArcsec: { type: DataTypes.DOUBLE },
      altitudeDeg: { type: DataTypes.DOUBLE },
      azimuthDeg: { type: DataTypes.DOUBLE },
      parked: { type: DataTypes.BOOLEAN },
      roof: { type: DataTypes.TEXT, validate: { isIn: [['open', 'closed', 'moving']] } },
    },
    { tableName: 'run_readings' },
  );
