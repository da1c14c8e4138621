import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Work of a visit, for one rig. */
export interface VisitJob extends Row<VisitJob> {
  id: CreationOptional<string>;
  observatoryId: string;
  visitId: string;
  rigId: string;
  work: 'angle' | 'filter' | 'cleaning' | 'mask' | 'focus' | 'other';
  skyAngleDeg: CreationOptional<number | null>;
  fitsId: CreationOptional<string | null>;
  removesId: CreationOptional<string | null>;
  words: CreationOptional<string>;
  state: CreationOptional<'open' | 'done' | 'left' | 'removed'>;
  settled: CreationOptional<Date | null>;
  settledBy: CreationOptional<string | null>;
  measuredDeg: CreationOptional<number | null>;
  exposureId: CreationOptional<string | null>;
  created: CreationOptional<Date>;
}

export const defineVisitJob = (sequelize: Sequelize): ModelStatic<VisitJob> =>
  sequelize.define<VisitJob>(
    'VisitJob',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      visitId: { type: DataTypes.UUID, allowNull: false, references: { model: 'visits', key: 'id' } },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      work: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['angle', 'filter', 'cleaning', 'mask', 'focus', 'other']] },
      },
      skyAngleDeg: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      fitsId: { type: DataTypes.UUID, references: { model: 'filters', key: 'id' } },
      removesId: { type: DataTypes.UUID, references: { model: 'filters', key: 'id' } },
      words: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'open',
        validate: { isIn: [['open', 'done', 'left', 'removed']] },
      },
      settled: { type: DataTypes.DATE },
      settledBy: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      measuredDeg: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      exposureId: { type: DataTypes.UUID, references: { model: 'exposures', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
    },
    { tableName: 'visit_jobs' },
  );
