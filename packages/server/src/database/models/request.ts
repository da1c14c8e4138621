import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Charged hours asked for a project, and how that was decided. */
export interface Request extends Row<Request> {
  id: CreationOptional<string>;
  observatoryId: string;
  projectId: string;
  personId: string;
  darkHours: number;
  brightHours: number;
  words: CreationOptional<string>;
  state: CreationOptional<'open' | 'queued' | 'granted' | 'returned' | 'withdrawn'>;
  remark: CreationOptional<string | null>;
  remarkField: CreationOptional<'hours' | 'goals' | 'framing' | 'limits' | 'deadline' | 'words' | null>;
  queuePlace: CreationOptional<number | null>;
  decidedBy: CreationOptional<string | null>;
  decided: CreationOptional<Date | null>;
  decidedAlone: CreationOptional<boolean>;
  created: CreationOptional<Date>;
}

export const defineRequest = (sequelize: Sequelize): ModelStatic<Request> =>
  sequelize.define<Request>(
    'Request',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      projectId: { type: DataTypes.UUID, allowNull: false, references: { model: 'projects', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      darkHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      brightHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      words: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'open',
        validate: { isIn: [['open', 'queued', 'granted', 'returned', 'withdrawn']] },
      },
      remark: { type: DataTypes.TEXT },
      remarkField: {
        type: DataTypes.TEXT,
        validate: { isIn: [['hours', 'goals', 'framing', 'limits', 'deadline', 'words']] },
      },
      queuePlace: { type: DataTypes.INTEGER, validate: { min: 1 } },
      decidedBy: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      decided: { type: DataTypes.DATE },
      decidedAlone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
    },
    { tableName: 'requests' },
  );
