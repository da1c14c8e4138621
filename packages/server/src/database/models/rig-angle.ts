import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface RigAngle extends Row<RigAngle> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  during: DateRange;
  skyAngleDeg: number;
  mechanicalDeg: CreationOptional<number | null>;
}

export const defineRigAngle = (sequelize: Sequelize): ModelStatic<RigAngle> =>
  sequelize.define<RigAngle>(
    'RigAngle',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
      skyAngleDeg: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      mechanicalDeg: { type: DataTypes.DOUBLE },
    },
    { tableName: 'rig_angles' },
  );
