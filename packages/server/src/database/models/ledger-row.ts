import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface LedgerRow extends Row<LedgerRow> {
  observatoryId: string;
  exposureId: string;
  projectId: CreationOptional<string | null>;
  panelId: CreationOptional<string | null>;
  goalId: CreationOptional<string | null>;
  filterId: string;
  nightDate: string;
  startUtc: Date;
  exposureS: number;
  creditShare: number;
  verdict: string;
  verdictSeq: CreationOptional<string | null>;
}

/** Triggers own it and no column is its key. */
export function defineLedgerRow(sequelize: Sequelize): ModelStatic<LedgerRow> {
  const model = sequelize.define<LedgerRow>(
    'LedgerRow',
    {
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      exposureId: { type: DataTypes.UUID, allowNull: false, references: { model: 'exposures', key: 'id' } },
      projectId: { type: DataTypes.UUID },
      panelId: { type: DataTypes.UUID },
      goalId: { type: DataTypes.UUID },
      filterId: { type: DataTypes.UUID, allowNull: false },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      startUtc: { type: DataTypes.DATE, allowNull: false },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false },
      creditShare: { type: DataTypes.DOUBLE, allowNull: false },
      verdict: { type: DataTypes.TEXT, allowNull: false },
      verdictSeq: { type: DataTypes.BIGINT },
    },
    { tableName: 'ledger_rows' },
  );
  model.removeAttribute('id');
  return model;
}
