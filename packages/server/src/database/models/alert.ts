import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Alert extends Row<Alert> {
  id: CreationOptional<string>;
  observatoryId: string;
  projectId: CreationOptional<string | null>;
  at: CreationOptional<Date>;
  kind: string;
  words: string;
  exposureId: CreationOptional<string | null>;
  seenBy: CreationOptional<string | null>;
  seen: CreationOptional<Date | null>;
}

export const defineAlert = (sequelize: Sequelize): ModelStatic<Alert> =>
  sequelize.define<Alert>(
    'Alert',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      projectId: { type: DataTypes.UUID, references: { model: 'projects', key: 'id' } },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      kind: { type: DataTypes.TEXT, allowNull: false },
      words: { type: DataTypes.TEXT, allowNull: false },
      exposureId: { type: DataTypes.UUID, references: { model: 'exposures', key: 'id' } },
      seenBy: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      seen: { type: DataTypes.DATE },
    },
    { tableName: 'alerts' },
  );
