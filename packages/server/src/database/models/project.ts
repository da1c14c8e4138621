import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Project extends Row<Project> {
  id: CreationOptional<string>;
  observatoryId: string;
  ownerId: string;
  rigId: string;
  targetId: string;
  name: string;
  state: CreationOptional<'draft' | 'proposed' | 'returned' | 'queued' | 'granted' | 'retired'>;
  resting: CreationOptional<boolean>;
  counting: CreationOptional<'all' | 'after_rules' | 'after_person'>;
  grade: CreationOptional<number>;
  deadline: CreationOptional<string | null>;
  decayNights: CreationOptional<number | null>;
  why: CreationOptional<string | null>;
  created: CreationOptional<Date>;
  version: CreationOptional<number>;
  private: CreationOptional<boolean>;
  judging: CreationOptional<boolean>;
  panelOrder: CreationOptional<'free' | 'one_per_night' | 'in_turn'>;
  /** Exposures of a filter before the next one; 0 finishes each filter before the next. */
  filterGroup: CreationOptional<number>;
  stepGuide: CreationOptional<boolean>;
  stepCentre: CreationOptional<boolean>;
  stepFocus: CreationOptional<boolean>;
  /** The owner's own order among their projects: 3 first, 1 last. */
  ownRank: CreationOptional<number>;
}

export const defineProject = (sequelize: Sequelize): ModelStatic<Project> =>
  sequelize.define<Project>(
    'Project',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      ownerId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      targetId: { type: DataTypes.UUID, allowNull: false, references: { model: 'targets', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'draft',
        validate: { isIn: [['draft', 'proposed', 'returned', 'queued', 'granted', 'retired']] },
      },
      resting: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      counting: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'all',
        validate: { isIn: [['all', 'after_rules', 'after_person']] },
      },
      grade: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 2, validate: { min: 1, max: 3 } },
      deadline: { type: DataTypes.DATEONLY },
      decayNights: { type: DataTypes.INTEGER },
      why: { type: DataTypes.TEXT },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      private: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      judging: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      panelOrder: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'free',
        validate: { isIn: [['free', 'one_per_night', 'in_turn']] },
      },
      filterGroup: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0, validate: { min: 0, max: 20 } },
      stepGuide: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      stepCentre: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      stepFocus: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      ownRank: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 2, validate: { min: 1, max: 3 } },
    },
    { tableName: 'projects' },
  );
