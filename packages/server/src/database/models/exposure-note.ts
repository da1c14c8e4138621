import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface ExposureNote extends Row<ExposureNote> {
  id: CreationOptional<string>;
  observatoryId: string;
  exposureId: string;
  personId: string;
  words: string;
  written: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineExposureNote = (sequelize: Sequelize): ModelStatic<ExposureNote> =>
  sequelize.define<ExposureNote>(
    'ExposureNote',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      exposureId: { type: DataTypes.UUID, allowNull: false, references: { model: 'exposures', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      words: { type: DataTypes.TEXT, allowNull: false },
      written: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'exposure_notes' },
  );
