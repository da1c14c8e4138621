import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Charged hours granted to a project; their sum is its envelope. */
export interface Grant extends Row<Grant> {
  id: CreationOptional<string>;
  observatoryId: string;
  projectId: string;
  requestId: string;
  darkHours: number;
  brightHours: number;
  personId: string;
  created: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineGrant = (sequelize: Sequelize): ModelStatic<Grant> =>
  sequelize.define<Grant>(
    'Grant',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      projectId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      requestId: { type: DataTypes.UUID, allowNull: false, references: { model: 'requests', key: 'id' } },
      darkHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      brightHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'grants' },
  );
