import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Verdict extends Row<Verdict> {
  seq: CreationOptional<string>;
  observatoryId: string;
  exposureId: string;
  origin: 'hand' | 'rule';
  byCoordinator: CreationOptional<boolean>;
  personId: CreationOptional<string | null>;
  verdict: 'accepted' | 'rejected' | 'undecided';
  reason: string;
  at: CreationOptional<Date>;
  /** A row with this set says nothing itself; it takes an earlier hand verdict back. */
  withdraws: CreationOptional<string | null>;
}

export const defineVerdict = (sequelize: Sequelize): ModelStatic<Verdict> =>
  sequelize.define<Verdict>(
    'Verdict',
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      exposureId: { type: DataTypes.UUID, allowNull: false, references: { model: 'exposures', key: 'id' } },
      origin: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['hand', 'rule']] } },
      byCoordinator: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      personId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      verdict: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['accepted', 'rejected', 'undecided']] } },
      reason: { type: DataTypes.TEXT, allowNull: false },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      withdraws: { type: DataTypes.BIGINT, references: { model: 'verdicts', key: 'seq' } },
    },
    { tableName: 'verdicts' },
  );
