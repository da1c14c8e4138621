import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface RunStep extends Row<RunStep> {
  id: CreationOptional<string>;
  observatoryId: string;
  runId: string;
  seq: number;
  goalId: string;
  plannedStart: Date;
  exposureS: number;
  rateShare: number;
  intent: CreationOptional<Date | null>;
  outcome: CreationOptional<'done' | 'lost' | 'replaced' | null>;
  ended: CreationOptional<Date | null>;
  words: CreationOptional<string | null>;
}

export const defineRunStep = (sequelize: Sequelize): ModelStatic<RunStep> =>
  sequelize.define<RunStep>(
    'RunStep',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      runId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_runs', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      goalId: { type: DataTypes.UUID, allowNull: false, references: { model: 'goals', key: 'id' } },
      plannedStart: { type: DataTypes.DATE, allowNull: false },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false },
      rateShare: { type: DataTypes.DOUBLE, allowNull: false },
      intent: { type: DataTypes.DATE },
      outcome: { type: DataTypes.TEXT, validate: { isIn: [['done', 'lost', 'replaced']] } },
      ended: { type: DataTypes.DATE },
      words: { type: DataTypes.TEXT },
    },
    { tableName: 'run_steps' },
  );
