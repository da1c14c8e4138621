import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Notice extends Row<Notice> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: string;
  at: CreationOptional<Date>;
  words: string;
  link: string;
  seen: CreationOptional<Date | null>;
  kind: CreationOptional<'news' | 'night' | 'danger'>;
}

export const defineNotice = (sequelize: Sequelize): ModelStatic<Notice> =>
  sequelize.define<Notice>(
    'Notice',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true, allowNull: false },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      words: { type: DataTypes.TEXT, allowNull: false },
      link: { type: DataTypes.TEXT, allowNull: false },
      seen: { type: DataTypes.DATE },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'news',
        validate: { isIn: [['news', 'night', 'danger']] },
      },
    },
    { tableName: 'notices' },
  );
