import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface NightRun extends Row<NightRun> {
  id: CreationOptional<string>;
  observatoryId: string;
  planId: string;
  rigId: string;
  state: CreationOptional<'requested' | 'running' | 'stopping' | 'stopped' | 'finished'>;
  speed: number;
  holder: CreationOptional<string | null>;
  leaseUntil: CreationOptional<Date | null>;
  leaseSec: CreationOptional<number>;
  site: CreationOptional<string | null>;
  fence: CreationOptional<number>;
  heard: CreationOptional<Date | null>;
  requested: CreationOptional<Date>;
  requestedBy: string;
  kind: CreationOptional<'night' | 'rehearsal'>;
  expires: CreationOptional<Date | null>;
  endedAs: CreationOptional<string | null>;
}

export const defineNightRun = (sequelize: Sequelize): ModelStatic<NightRun> =>
  sequelize.define<NightRun>(
    'NightRun',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      planId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_plans', key: 'id' } },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'requested',
        validate: { isIn: [['requested', 'running', 'stopping', 'stopped', 'finished']] },
      },
      speed: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 1 } },
      holder: { type: DataTypes.TEXT },
      leaseUntil: { type: DataTypes.DATE },
      leaseSec: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 20, field: 'lease_s', validate: { min: 1 } },
      site: { type: DataTypes.TEXT, validate: { len: [1, 80] } },
      fence: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      heard: { type: DataTypes.DATE },
      requested: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      requestedBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'night',
        validate: { isIn: [['night', 'rehearsal']] },
      },
      expires: { type: DataTypes.DATE },
      endedAs: { type: DataTypes.TEXT },
    },
    { tableName: 'night_runs' },
  );
