import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface TestShotRow extends Row<TestShotRow> {
  id: CreationOptional<string>;
  observatoryId: string;
  runId: string;
  exposureSec: number | null;
  filterLetter: string | null;
  binning: number;
  raDeg: number | null;
  decDeg: number | null;
  orderedBy: string;
  ordered: CreationOptional<Date>;
  outcome: CreationOptional<'done' | 'refused' | null>;
  words: CreationOptional<string | null>;
  picture: CreationOptional<Buffer | null>;
}

export const defineTestShot = (sequelize: Sequelize): ModelStatic<TestShotRow> =>
  sequelize.define<TestShotRow>(
    'TestShot',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      runId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_runs', key: 'id' } },
      exposureSec: { type: DataTypes.DOUBLE },
      filterLetter: { type: DataTypes.TEXT },
      binning: { type: DataTypes.INTEGER, allowNull: false },
      raDeg: { type: DataTypes.DOUBLE },
      decDeg: { type: DataTypes.DOUBLE },
      orderedBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      ordered: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      outcome: { type: DataTypes.TEXT, validate: { isIn: [['done', 'refused']] } },
      words: { type: DataTypes.TEXT },
      picture: { type: DataTypes.BLOB },
    },
    { tableName: 'test_shots' },
  );
