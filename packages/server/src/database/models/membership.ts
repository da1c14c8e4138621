import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface Membership extends Row<Membership> {
  id: CreationOptional<string>;
  observatoryId: string;
  personId: string;
  role: 'guest' | 'member' | 'helper' | 'coordinator';
  during: CreationOptional<DateRange>;
  suspended: CreationOptional<boolean>;
}

export const defineMembership = (sequelize: Sequelize): ModelStatic<Membership> =>
  sequelize.define<Membership>(
    'Membership',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      personId: { type: DataTypes.UUID, allowNull: false, references: { model: 'people', key: 'id' } },
      role: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['guest', 'member', 'helper', 'coordinator']] },
      },
      during: {
        type: DataTypes.RANGE(DataTypes.DATE),
        allowNull: false,
        defaultValue: literal('tstzrange(now(), NULL::timestamp with time zone)'),
      },
      suspended: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { tableName: 'memberships' },
  );
