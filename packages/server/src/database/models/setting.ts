import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface Setting extends Row<Setting> {
  observatoryId: string;
  key: string;
  value: object;
}

export const defineSetting = (sequelize: Sequelize): ModelStatic<Setting> =>
  sequelize.define<Setting>(
    'Setting',
    {
      observatoryId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'observatories', key: 'id' },
      },
      key: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      value: { type: DataTypes.JSONB, allowNull: false },
    },
    { tableName: 'settings' },
  );
