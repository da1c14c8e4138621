import type { FrameFigures } from '@meridiem/contract';
import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface FrameMeasure extends Row<FrameMeasure> {
  exposureId: string;
  method: number;
  measured: CreationOptional<Date>;
  widthPx: number;
  heightPx: number;
  background: number;
  noise: number;
  starCount: number;
  halfFluxRadiusPx: number | null;
  elongation: number | null;
  histogramTo: number;
  histogramCounts: number[];
  saturatedShare: number;
  trails: FrameFigures['trails'];
  solvedBy: NonNullable<FrameFigures['pointing']>['by'] | null;
  raDeg: number | null;
  decDeg: number | null;
  positionAngleDeg: number | null;
  scaleArcsec: number | null;
  isMirrored: boolean | null;
  solvedStars: number | null;
  residualArcsec: number | null;
  notSolved: string | null;
  zeroPointMag: number | null;
  zeroPointScatterMag: number | null;
  zeroPointStars: number | null;
}

// One object a column: the library writes into them.
const real = () => ({ type: DataTypes.DOUBLE, allowNull: false });
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });

export const defineFrameMeasure = (sequelize: Sequelize): ModelStatic<FrameMeasure> =>
  sequelize.define<FrameMeasure>(
    'FrameMeasure',
    {
      exposureId: {
        type: DataTypes.UUID,
        primaryKey: true,
        allowNull: false,
        references: { model: 'frames', key: 'exposure_id' },
      },
      method: whole(),
      measured: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('clock_timestamp()') },
      widthPx: whole(),
      heightPx: whole(),
      background: real(),
      noise: real(),
      starCount: whole(),
      halfFluxRadiusPx: { type: DataTypes.DOUBLE },
      elongation: { type: DataTypes.DOUBLE },
      histogramTo: real(),
      histogramCounts: { type: DataTypes.ARRAY(DataTypes.INTEGER), allowNull: false },
      saturatedShare: real(),
      trails: { type: DataTypes.JSONB, allowNull: false },
      solvedBy: { type: DataTypes.TEXT },
      raDeg: { type: DataTypes.DOUBLE },
      decDeg: { type: DataTypes.DOUBLE },
      positionAngleDeg: { type: DataTypes.DOUBLE },
      scaleArcsec: { type: DataTypes.DOUBLE },
      isMirrored: { type: DataTypes.BOOLEAN },
      solvedStars: { type: DataTypes.INTEGER },
      residualArcsec: { type: DataTypes.DOUBLE },
      notSolved: { type: DataTypes.TEXT },
      zeroPointMag: { type: DataTypes.DOUBLE },
      zeroPointScatterMag: { type: DataTypes.DOUBLE },
      zeroPointStars: { type: DataTypes.INTEGER },
    },
    { tableName: 'frame_measures' },
  );
