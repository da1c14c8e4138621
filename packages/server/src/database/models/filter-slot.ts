import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { DateRange } from './date-range.ts';
import type { Row } from './row.ts';

export interface FilterSlot extends Row<FilterSlot> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  slot: number;
  filterId: string;
  focusOffsetSteps: CreationOptional<number | null>;
  during: DateRange;
}

export const defineFilterSlot = (sequelize: Sequelize): ModelStatic<FilterSlot> =>
  sequelize.define<FilterSlot>(
    'FilterSlot',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      slot: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      filterId: { type: DataTypes.UUID, allowNull: false, references: { model: 'filters', key: 'id' } },
      focusOffsetSteps: { type: DataTypes.INTEGER },
      during: { type: DataTypes.RANGE(DataTypes.DATE), allowNull: false },
    },
    { tableName: 'filter_slots' },
  );
