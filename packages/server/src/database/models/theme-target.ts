import type { ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

export interface ThemeTarget extends Row<ThemeTarget> {
  observatoryId: string;
  themeId: string;
  targetId: string;
}

export const defineThemeTarget = (sequelize: Sequelize): ModelStatic<ThemeTarget> =>
  sequelize.define<ThemeTarget>(
    'ThemeTarget',
    {
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      themeId: { type: DataTypes.UUID, primaryKey: true, allowNull: false, references: { model: 'themes', key: 'id' } },
      targetId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'targets', key: 'id' },
      },
    },
    { tableName: 'theme_targets' },
  );
