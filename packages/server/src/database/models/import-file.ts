import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface ImportFile extends Row<ImportFile> {
  id: CreationOptional<string>;
  observatoryId: string;
  importId: string;
  seq: number;
  name: string;
  sizeBytes: string;
  facts: CreationOptional<object>;
  refused: CreationOptional<string | null>;
  byHand: CreationOptional<object>;
  dataSha256: CreationOptional<Buffer | null>;
  pixelsSha256: CreationOptional<Buffer | null>;
  outcome: CreationOptional<'added' | 'known' | null>;
  exposureId: CreationOptional<string | null>;
}

export const defineImportFile = (sequelize: Sequelize): ModelStatic<ImportFile> =>
  sequelize.define<ImportFile>(
    'ImportFile',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      importId: { type: DataTypes.UUID, allowNull: false, references: { model: 'imports', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 0 } },
      name: { type: DataTypes.TEXT, allowNull: false },
      sizeBytes: { type: DataTypes.BIGINT, allowNull: false, validate: { min: 0 } },
      facts: { type: DataTypes.JSONB },
      refused: { type: DataTypes.TEXT },
      byHand: { type: DataTypes.JSONB, allowNull: false, defaultValue: literal("'{}'::jsonb") },
      dataSha256: { type: DataTypes.BLOB },
      pixelsSha256: { type: DataTypes.BLOB },
      outcome: { type: DataTypes.TEXT, validate: { isIn: [['added', 'known']] } },
      exposureId: { type: DataTypes.UUID, references: { model: 'exposures', key: 'id' } },
    },
    { tableName: 'import_files' },
  );
