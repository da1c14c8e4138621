import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** Hours of one sky offered for hours of the other. */
export interface ShareSwap extends Row<ShareSwap> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  fromId: string;
  toId: string;
  givesSky: 'dark' | 'bright';
  givesHours: number;
  getsSky: 'dark' | 'bright';
  getsHours: number;
  words: CreationOptional<string>;
  state: CreationOptional<'open' | 'accepted' | 'declined' | 'withdrawn'>;
  created: CreationOptional<Date>;
  decided: CreationOptional<Date | null>;
}

export const defineShareSwap = (sequelize: Sequelize): ModelStatic<ShareSwap> =>
  sequelize.define<ShareSwap>(
    'ShareSwap',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      fromId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      toId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      givesSky: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['dark', 'bright']] } },
      givesHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      getsSky: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['dark', 'bright']] } },
      getsHours: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      words: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      state: {
        type: DataTypes.TEXT,
        allowNull: false,
        defaultValue: 'open',
        validate: { isIn: [['open', 'accepted', 'declined', 'withdrawn']] },
      },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      decided: { type: DataTypes.DATE },
    },
    { tableName: 'share_swaps' },
  );
