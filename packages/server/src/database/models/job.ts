import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Job extends Row<Job> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: CreationOptional<string | null>;
  kind: string;
  requestHash: string;
  request: object;
  state: CreationOptional<'waiting' | 'running' | 'done' | 'failed' | 'stopped'>;
  progress: CreationOptional<number>;
  attempt: CreationOptional<number>;
  holder: CreationOptional<string | null>;
  heartbeat: CreationOptional<Date | null>;
  failure: CreationOptional<string | null>;
  created: CreationOptional<Date>;
  finished: CreationOptional<Date | null>;
}

export const defineJob = (sequelize: Sequelize): ModelStatic<Job> =>
  sequelize.define<Job>(
    'Job',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      kind: { type: DataTypes.TEXT, allowNull: false },
      requestHash: { type: DataTypes.TEXT, allowNull: false },
      request: { type: DataTypes.JSONB, allowNull: false },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'waiting',
        validate: { isIn: [['waiting', 'running', 'done', 'failed', 'stopped']] },
      },
      progress: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0, validate: { min: 0, max: 1 } },
      attempt: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0, validate: { min: 0 } },
      holder: { type: DataTypes.TEXT },
      heartbeat: { type: DataTypes.DATE },
      failure: { type: DataTypes.TEXT },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      finished: { type: DataTypes.DATE },
    },
    { tableName: 'jobs' },
  );
