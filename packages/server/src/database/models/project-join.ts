import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Two projects of two members that share their exposures. */
export interface ProjectJoin extends Row<ProjectJoin> {
  id: CreationOptional<string>;
  observatoryId: string;
  fromId: string;
  toId: string;
  fromShare: number;
  state: CreationOptional<'open' | 'accepted' | 'declined' | 'withdrawn' | 'ended'>;
  offeredBy: string;
  decidedBy: CreationOptional<string | null>;
  created: CreationOptional<Date>;
  since: CreationOptional<Date | null>;
  until: CreationOptional<Date | null>;
}

export const defineProjectJoin = (sequelize: Sequelize): ModelStatic<ProjectJoin> =>
  sequelize.define<ProjectJoin>(
    'ProjectJoin',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      fromId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      toId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      fromShare: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0, max: 1 } },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'open',
        validate: { isIn: [['open', 'accepted', 'declined', 'withdrawn', 'ended']] },
      },
      offeredBy: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      decidedBy: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      since: { type: DataTypes.DATE },
      until: { type: DataTypes.DATE },
    },
    { tableName: 'project_joins' },
  );
