import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A result belongs to its request, whoever asked first. */
export interface JobResult extends Row<JobResult> {
  observatoryId: string;
  kind: string;
  requestHash: string;
  result: object;
  made: CreationOptional<Date>;
}

export const defineJobResult = (sequelize: Sequelize): ModelStatic<JobResult> =>
  sequelize.define<JobResult>(
    'JobResult',
    {
      observatoryId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'observatories', key: 'id' },
      },
      kind: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      requestHash: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      result: { type: DataTypes.JSONB, allowNull: false },
      made: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'job_results' },
  );
