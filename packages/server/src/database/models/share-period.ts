import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Nights for which shares were agreed. */
export interface SharePeriod extends Row<SharePeriod> {
  id: CreationOptional<string>;
  observatoryId: string;
  firstNight: string;
  lastNight: CreationOptional<string | null>;
  personId: string;
  created: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineSharePeriod = (sequelize: Sequelize): ModelStatic<SharePeriod> =>
  sequelize.define<SharePeriod>(
    'SharePeriod',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      firstNight: { type: DataTypes.DATEONLY, allowNull: false },
      lastNight: { type: DataTypes.DATEONLY },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'share_periods' },
  );
