import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface LedgerTally extends Row<LedgerTally> {
  observatoryId: string;
  projectId: CreationOptional<string | null>;
  filterId: string;
  nightDate: string;
  verdict: string;
  exposures: number;
  exposureS: number;
}

/** Triggers own it and no column is its key. */
export function defineLedgerTally(sequelize: Sequelize): ModelStatic<LedgerTally> {
  const model = sequelize.define<LedgerTally>(
    'LedgerTally',
    {
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      projectId: { type: DataTypes.UUID },
      filterId: { type: DataTypes.UUID, allowNull: false },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      verdict: { type: DataTypes.TEXT, allowNull: false },
      exposures: { type: DataTypes.INTEGER, allowNull: false },
      exposureS: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { tableName: 'ledger_tallies' },
  );
  model.removeAttribute('id');
  return model;
}
