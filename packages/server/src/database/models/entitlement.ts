import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import type { Row } from './row.ts';

/** Hours that a closed night entitled a member to. */
export interface Entitlement extends Row<Entitlement> {
  id: CreationOptional<string>;
  closingId: string;
  personId: string;
  skyClass: 'dark' | 'bright';
  share: number;
  hours: number;
}

export const defineEntitlement = (sequelize: Sequelize): ModelStatic<Entitlement> =>
  sequelize.define<Entitlement>(
    'Entitlement',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, allowNull: false, autoIncrement: true },
      closingId: { type: DataTypes.UUID, allowNull: false, references: { model: 'night_closings', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      skyClass: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['dark', 'bright']] } },
      share: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      hours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
    },
    { tableName: 'entitlements' },
  );
