import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

/** Whose a project was at a time; written by a trigger. */
export interface ProjectOwner extends Row<ProjectOwner> {
  id: CreationOptional<string>;
  projectId: string;
  personId: string;
  during: DateRange;
}

export const defineProjectOwner = (sequelize: Sequelize): ModelStatic<ProjectOwner> =>
  sequelize.define<ProjectOwner>(
    'ProjectOwner',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      projectId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
    },
    { tableName: 'project_owners' },
  );
