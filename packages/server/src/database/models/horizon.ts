import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface Horizon extends Row<Horizon> {
  id: CreationOptional<string>;
  observatoryId: string;
  during: CreationOptional<DateRange>;
  points: object;
}

export const defineHorizon = (sequelize: Sequelize): ModelStatic<Horizon> =>
  sequelize.define<Horizon>(
    'Horizon',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false, references: { model: 'observatories', key: 'id' } },
      during: {
        type: DataTypes.RANGE(DataTypes.DATE),
        allowNull: false,
        defaultValue: literal('tstzrange(now(), NULL::timestamp with time zone)'),
      },
      points: { type: DataTypes.JSONB, allowNull: false },
    },
    { tableName: 'horizons' },
  );
