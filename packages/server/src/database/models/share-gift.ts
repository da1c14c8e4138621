import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Entitled hours that one member gave another. */
export interface ShareGift extends Row<ShareGift> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  fromId: string;
  toId: string;
  skyClass: 'dark' | 'bright';
  hours: number;
  nightDate: string;
  words: CreationOptional<string>;
  swapId: CreationOptional<string | null>;
  created: CreationOptional<Date>;
  withdrawn: CreationOptional<Date | null>;
}

export const defineShareGift = (sequelize: Sequelize): ModelStatic<ShareGift> =>
  sequelize.define<ShareGift>(
    'ShareGift',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      fromId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      toId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      skyClass: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['dark', 'bright']] } },
      hours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      nightDate: { type: DataTypes.DATEONLY, allowNull: false },
      words: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      swapId: { type: DataTypes.UUID, references: { model: 'share_swaps', key: 'id' } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      withdrawn: { type: DataTypes.DATE },
    },
    { tableName: 'share_gifts' },
  );
