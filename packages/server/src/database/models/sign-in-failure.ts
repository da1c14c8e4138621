import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface SignInFailure extends Row<SignInFailure> {
  account: string;
  address: string;
  failures: number;
  last: CreationOptional<Date>;
}

export const defineSignInFailure = (sequelize: Sequelize): ModelStatic<SignInFailure> =>
  sequelize.define<SignInFailure>(
    'SignInFailure',
    {
      account: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      address: { type: DataTypes.TEXT, primaryKey: true, allowNull: false },
      failures: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      last: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'sign_in_failures' },
  );
