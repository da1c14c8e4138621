import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface PanelPointing extends Row<PanelPointing> {
  id: CreationOptional<string>;
  observatoryId: string;
  panelId: string;
  seq: number;
  raDeg: CreationOptional<number | null>;
  decDeg: CreationOptional<number | null>;
  positionAngleDeg: number;
  created: CreationOptional<Date>;
}

export const definePanelPointing = (sequelize: Sequelize): ModelStatic<PanelPointing> =>
  sequelize.define<PanelPointing>(
    'PanelPointing',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      panelId: { type: DataTypes.UUID, allowNull: false, references: { model: 'panels', key: 'id' } },
      seq: { type: DataTypes.INTEGER, allowNull: false, validate: { min: 1 } },
      raDeg: { type: DataTypes.DOUBLE, validate: { min: 0 } },
      decDeg: { type: DataTypes.DOUBLE, validate: { max: 90 } },
      positionAngleDeg: { type: DataTypes.DOUBLE, allowNull: false, validate: { min: 0 } },
      created: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
    },
    { tableName: 'panel_pointings' },
  );
