import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface Frame extends Row<Frame> {
  exposureId: string;
  observatoryId: string;
  name: string;
  /** A string where the driver reads it: of any length. */
  sizeBytes: number | string;
  sha256: Buffer;
  copied: CreationOptional<Date | null>;
}

export const defineFrame = (sequelize: Sequelize): ModelStatic<Frame> =>
  sequelize.define<Frame>(
    'Frame',
    {
      exposureId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'exposures', key: 'id' },
      },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      sizeBytes: { type: DataTypes.BIGINT, allowNull: false },
      sha256: { type: DataTypes.BLOB, allowNull: false },
      copied: { type: DataTypes.DATE },
    },
    { tableName: 'frames' },
  );
