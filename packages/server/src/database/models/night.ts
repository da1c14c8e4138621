import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Night extends Row<Night> {
  id: CreationOptional<string>;
  observatoryId: string;
  nightDate: string;
  startUtc: Date;
  endUtc: Date;
}

export const defineNight = (sequelize: Sequelize): ModelStatic<Night> =>
  sequelize.define<Night>(
    'Night',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      startUtc: { type: DataTypes.DATE, allowNull: false },
      endUtc: { type: DataTypes.DATE, allowNull: false },
    },
    { tableName: 'nights' },
  );
