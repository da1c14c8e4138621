import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface Person extends Row<Person> {
  id: CreationOptional<string>;
  email: string;
  name: string;
  passwordHash: string;
  timeZone: string;
  /** Set only by the demo, whose accounts are public and bound to loopback. */
  demoPassword: CreationOptional<string | null>;
  /** The name written into and looked for in the headers of frames. */
  fitsObserver: CreationOptional<string | null>;
}

export const definePerson = (sequelize: Sequelize): ModelStatic<Person> =>
  sequelize.define<Person>(
    'Person',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      email: { type: DataTypes.TEXT, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      passwordHash: { type: DataTypes.TEXT, allowNull: false },
      timeZone: { type: DataTypes.TEXT, allowNull: false },
      demoPassword: { type: DataTypes.TEXT },
      fitsObserver: { type: DataTypes.TEXT },
    },
    { tableName: 'people' },
  );
