import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** A member's share in a period, of one rig or all, of one sky or both. */
export interface Allotment extends Row<Allotment> {
  id: CreationOptional<string>;
  observatoryId: string;
  periodId: string;
  personId: string;
  rigId: CreationOptional<string | null>;
  skyClass: CreationOptional<'dark' | 'bright' | null>;
  share: number;
}

export const defineAllotment = (sequelize: Sequelize): ModelStatic<Allotment> =>
  sequelize.define<Allotment>(
    'Allotment',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      periodId: { type: DataTypes.UUID, allowNull: false, references: { model: 'share_periods', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      rigId: { type: DataTypes.UUID, references: { model: 'rigs', key: 'id' } },
      skyClass: { type: DataTypes.TEXT, validate: { isIn: [['dark', 'bright']] } },
      share: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
    },
    { tableName: 'allotments' },
  );
