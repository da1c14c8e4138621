import type { FocusCurve } from '@meridiem/contract';
import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface RunAction extends Row<RunAction> {
  id: string;
  observatoryId: string;
  runId: string;
  seq: number;
  kind: string;
  words: string;
  attempt: number;
  started: Date;
  ended: CreationOptional<Date | null>;
  outcome: CreationOptional<'done' | 'failed' | 'interrupted' | 'unknown' | null>;
  remark: CreationOptional<string | null>;
  curve: CreationOptional<FocusCurve | null>;
}

export const defineRunAction = (sequelize: Sequelize): ModelStatic<RunAction> =>
  sequelize.define<RunAction>(
    'RunAction',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      runId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_runs', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      kind: { type: DataTypes.TEXT, allowNull: false },
      words: { type: DataTypes.TEXT, allowNull: false },
      attempt: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      started: { type: DataTypes.DATE, allowNull: false },
      ended: { type: DataTypes.DATE },
      outcome: { type: DataTypes.TEXT, validate: { isIn: [['done', 'failed', 'interrupted', 'unknown']] } },
      remark: { type: DataTypes.TEXT },
      curve: { type: DataTypes.JSONB },
    },
    { tableName: 'run_actions' },
  );
