import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Panel extends Row<Panel> {
  id: CreationOptional<string>;
  observatoryId: string;
  projectId: string;
  position: number;
  name: string;
  /** A composition framed anew has no place for it; its exposures stay in the ledger. */
  dropped: CreationOptional<boolean>;
}

export const definePanel = (sequelize: Sequelize): ModelStatic<Panel> =>
  sequelize.define<Panel>(
    'Panel',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      projectId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      position: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      dropped: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { tableName: 'panels' },
  );
