import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

/** What a call with an id of its caller's has done: repeated after a cut connection it is answered from here. */
export interface DoneCall extends Row<DoneCall> {
  personId: string;
  callId: string;
  part: number;
  operation: string;
  result: CreationOptional<object | null>;
  at: CreationOptional<Date>;
}

export const defineDoneCall = (sequelize: Sequelize): ModelStatic<DoneCall> =>
  sequelize.define<DoneCall>(
    'DoneCall',
    {
      personId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'people', key: 'id' },
      },
      callId: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      part: { type: DataTypes.INTEGER, primaryKey: true, allowNull: false, validate: { min: 0 } },
      operation: { type: DataTypes.TEXT, allowNull: false },
      result: { type: DataTypes.JSONB },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'done_calls' },
  );
