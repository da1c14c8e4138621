import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface DuskCall extends Row<DuskCall> {
  observatoryId: string;
  nightDate: string;
  call: 'go' | 'wait' | 'no_go';
  hoursClear: number;
  sent: CreationOptional<Date>;
}

export const defineDuskCall = (sequelize: Sequelize): ModelStatic<DuskCall> =>
  sequelize.define<DuskCall>(
    'DuskCall',
    {
      observatoryId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'observatories', key: 'id' },
      },
      nightDate: { type: DataTypes.DATEONLY, primaryKey: true, allowNull: false },
      call: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['go', 'wait', 'no_go']] } },
      hoursClear: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      sent: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
    },
    { tableName: 'dusk_calls' },
  );
