import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Target extends Row<Target> {
  id: CreationOptional<string>;
  observatoryId: string;
  name: string;
  kind: CreationOptional<'fixed' | 'moving'>;
  raDeg: CreationOptional<number | null>;
  decDeg: CreationOptional<number | null>;
  shelved: CreationOptional<boolean>;
  sizeArcmin: CreationOptional<number | null>;
  /** How it was last framed, as the framing page writes it into its address. */
  composition: CreationOptional<string | null>;
}

export const defineTarget = (sequelize: Sequelize): ModelStatic<Target> =>
  sequelize.define<Target>(
    'Target',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      name: { type: DataTypes.TEXT, allowNull: false },
      kind: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'fixed',
        validate: { isIn: [['fixed', 'moving']] },
      },
      raDeg: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      decDeg: { type: DataTypes.DOUBLE, validate: { max: 90 } },
      shelved: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      sizeArcmin: { type: DataTypes.DOUBLE },
      composition: { type: DataTypes.TEXT },
    },
    { tableName: 'targets' },
  );
