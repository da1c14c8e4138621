import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface RunOrder extends Row<RunOrder> {
  id: CreationOptional<string>;
  observatoryId: string;
  runId: string;
  kind: 'hold' | 'resume' | 'leave' | 'last';
  orderedBy: string;
  ordered: CreationOptional<Date>;
  carriedOut: CreationOptional<Date | null>;
}

export const defineRunOrder = (sequelize: Sequelize): ModelStatic<RunOrder> =>
  sequelize.define<RunOrder>(
    'RunOrder',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      runId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_runs', key: 'id' } },
      kind: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['hold', 'resume', 'leave', 'last']] } },
      orderedBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      ordered: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      carriedOut: { type: DataTypes.DATE },
    },
    { tableName: 'run_orders' },
  );
