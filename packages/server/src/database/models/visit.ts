import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A visit to the site, on the day before a night. */
export interface Visit extends Row<Visit> {
  id: CreationOptional<string>;
  observatoryId: string;
  nightDate: string;
  goesId: CreationOptional<string | null>;
  words: CreationOptional<string>;
  personId: string;
  created: CreationOptional<Date>;
  cancelled: CreationOptional<boolean>;
  version: CreationOptional<number>;
}

export const defineVisit = (sequelize: Sequelize): ModelStatic<Visit> =>
  sequelize.define<Visit>(
    'Visit',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      goesId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      words: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      cancelled: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
    },
    { tableName: 'visits' },
  );
