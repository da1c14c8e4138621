import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

/** A depth that a project wants through a filter. */
export interface DepthWish extends Row<DepthWish> {
  projectId: string;
  filterId: string;
  observatoryId: string;
  /** Magnitudes per square arcsecond. */
  mag: number;
  /** Of its field, (0, 1]. */
  share: number;
}

export const defineDepthWish = (sequelize: Sequelize): ModelStatic<DepthWish> =>
  sequelize.define<DepthWish>(
    'DepthWish',
    {
      projectId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'projects', key: 'id' } }, // prettier-ignore
      filterId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'filters', key: 'id' } }, // prettier-ignore
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      mag: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 15, max: 35 } },
      share: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 1 } },
    },
    { tableName: 'depth_wishes' },
  );
