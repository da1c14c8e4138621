import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** The newest per rig is in force; null switches a rule off. Without a row the defaults of the core apply. */
export interface RuleRevision extends Row<RuleRevision> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  seq: number;
  starSizeSigmas: CreationOptional<number | null>;
  starCountSigmas: CreationOptional<number | null>;
  guidingSigmas: CreationOptional<number | null>;
  backgroundSigmas: CreationOptional<number | null>;
  elongationSigmas: CreationOptional<number | null>;
  starlightSigmas: CreationOptional<number | null>;
  personId: string;
  at: CreationOptional<Date>;
}

export const defineRuleRevision = (sequelize: Sequelize): ModelStatic<RuleRevision> =>
  sequelize.define<RuleRevision>(
    'RuleRevision',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      starSizeSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      starCountSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      guidingSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      backgroundSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      elongationSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      starlightSigmas: { type: DataTypes.DOUBLE, validate: { min: 1, max: 20 } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'rule_revisions' },
  );
