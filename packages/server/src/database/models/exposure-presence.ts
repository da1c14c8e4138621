import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** An import taken back leaves its exposures; the newest row says whether one belongs to the ledger. No row: it does. */
export interface ExposurePresence extends Row<ExposurePresence> {
  seq: CreationOptional<string>;
  observatoryId: string;
  exposureId: string;
  importId: string;
  present: boolean;
  at: CreationOptional<Date>;
}

export const defineExposurePresence = (sequelize: Sequelize): ModelStatic<ExposurePresence> =>
  sequelize.define<ExposurePresence>(
    'ExposurePresence',
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      exposureId: { type: DataTypes.UUID, allowNull: false, references: { model: 'exposures', key: 'id' } },
      importId: { type: DataTypes.UUID, allowNull: false, references: { model: 'imports', key: 'id' } },
      present: { type: DataTypes.BOOLEAN, allowNull: false },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'exposure_presence' },
  );
