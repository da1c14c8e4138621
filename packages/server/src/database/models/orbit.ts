import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Orbit extends Row<Orbit> {
  id: CreationOptional<string>;
  observatoryId: string;
  targetId: string;
  seq: number;
  elements: object;
  line: string;
  personId: string;
  created: CreationOptional<Date>;
}

export const defineOrbit = (sequelize: Sequelize): ModelStatic<Orbit> =>
  sequelize.define<Orbit>(
    'Orbit',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      targetId: { type: DataTypes.UUID, allowNull: false, references: { model: 'targets', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      elements: { type: DataTypes.JSONB, allowNull: false },
      line: { type: DataTypes.TEXT, allowNull: false },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'orbits' },
  );
