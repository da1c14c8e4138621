import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Rig extends Row<Rig> {
  id: CreationOptional<string>;
  observatoryId: string;
  name: string;
  position: CreationOptional<number>;
  devices: CreationOptional<'none' | 'simulated' | 'address'>;
  devicesUrl: CreationOptional<string | null>;
  /** Numbers of its nights that differ from the usual ones. */
  nightRules: CreationOptional<object>;
  /** Whether its times are set anew after each night by devices. */
  learnsTimes: CreationOptional<boolean>;
  retired: CreationOptional<Date | null>;
}

export const defineRig = (sequelize: Sequelize): ModelStatic<Rig> =>
  sequelize.define<Rig>(
    'Rig',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      position: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      devices: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'none',
        validate: { isIn: [['none', 'simulated', 'address']] },
      },
      devicesUrl: { type: DataTypes.TEXT },
      nightRules: { type: DataTypes.JSONB, allowNull: false, defaultValue: {} },
      learnsTimes: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      retired: { type: DataTypes.DATE },
    },
    { tableName: 'rigs' },
  );
