import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface Forecast extends Row<Forecast> {
  observatoryId: string;
  source: string;
  hour: Date;
  issued: Date;
  cloudShare: number;
  windMPerS: number;
  humidityShare: number;
}

export const defineForecast = (sequelize: Sequelize): ModelStatic<Forecast> =>
  sequelize.define<Forecast>(
    'Forecast',
    {
      observatoryId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'observatories', key: 'id' },
      },
      source: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      hour: { type: DataTypes.DATE, primaryKey: true, allowNull: false },
      issued: { type: DataTypes.DATE, allowNull: false },
      cloudShare: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 1 } },
      windMPerS: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      humidityShare: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 1 } },
    },
    { tableName: 'forecasts' },
  );
