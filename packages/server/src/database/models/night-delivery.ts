import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** An owner was told that all files of a night are on the server. */
export interface NightDelivery extends Row<NightDelivery> {
  runId: string;
  projectId: string;
  observatoryId: string;
  files: number;
  sizeBytes: string;
  told: CreationOptional<Date>;
}

export const defineNightDelivery = (sequelize: Sequelize): ModelStatic<NightDelivery> =>
  sequelize.define<NightDelivery>(
    'NightDelivery',
    {
      runId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'night_runs', key: 'id' } }, // prettier-ignore
      projectId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'projects', key: 'id' } }, // prettier-ignore
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      files: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      sizeBytes: { type: DataTypes.BIGINT, allowNull: false, validate: { min: 1 } },
      told: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
    },
    { tableName: 'night_deliveries' },
  );
