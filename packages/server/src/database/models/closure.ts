import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Nights on which the observatory, or one rig, is closed. */
export interface Closure extends Row<Closure> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: CreationOptional<string | null>;
  /** As yyyy-mm-dd, both among the closed ones. */
  firstNight: string;
  lastNight: string;
  reason: string;
  personId: string;
  created: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineClosure = (sequelize: Sequelize): ModelStatic<Closure> =>
  sequelize.define<Closure>(
    'Closure',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      rigId: { type: DataTypes.UUID, references: { model: 'rigs', key: 'id' } },
      firstNight: { type: DataTypes.DATEONLY, allowNull: false },
      lastNight: { type: DataTypes.DATEONLY, allowNull: false },
      reason: { type: DataTypes.TEXT, allowNull: false },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'closures' },
  );
