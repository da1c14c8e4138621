// What the pixels of a file say, as a row; and where its panel asked it to point.
import type { FrameFigures } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { imageScaleArcsec } from '@meridiem/core';
import { literal, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { FrameMeasure } from '../../database/models/frame-measure.ts';
import { NOW } from '../../database/now.ts';
import type { PointingHint } from '../../jobs/pointing.ts';

export interface Measured {
  readonly figures: FrameFigures;
  readonly measuredUtcMs: number;
}

/** @param method another way of measuring is no answer */
export async function storedMeasure({ models }: Queries, exposureId: string, method: number): Promise<Measured | null> {
  const row = await models.FrameMeasure.findOne({ where: { exposureId, method } });
  return row && { figures: figuresOf(row), measuredUtcMs: row.measured.getTime() };
}

const figuresOf = (row: FrameMeasure): FrameFigures => {
  const { widthPx, heightPx, background, noise, starCount, halfFluxRadiusPx, elongation, notSolved } = row;
  return {
    ...{ widthPx, heightPx, background, noise, starCount, halfFluxRadiusPx, elongation, notSolved },
    trails: row.trails,
    histogram: { to: row.histogramTo, counts: row.histogramCounts, saturatedShare: row.saturatedShare },
    pointing:
      row.raDeg === null
        ? null
        : {
            by: row.solvedBy!,
            raDeg: row.raDeg,
            decDeg: row.decDeg!,
            positionAngleDeg: row.positionAngleDeg!,
            scaleArcsecPerPx: row.scaleArcsec!,
            isMirrored: row.isMirrored!,
            starCount: row.solvedStars!,
            meanResidualArcsec: row.residualArcsec!,
          },
    zeroPoint:
      row.zeroPointMag === null
        ? null
        : { mag: row.zeroPointMag, scatterMag: row.zeroPointScatterMag!, starCount: row.zeroPointStars! },
  };
};

/** In place of what was measured before. */
export const storeMeasure = (
  { models }: Queries,
  of: Pick<FrameMeasure, 'exposureId' | 'method'>,
  { histogram, pointing, zeroPoint, ...figures }: FrameFigures,
): Promise<unknown> =>
  models.FrameMeasure.upsert({
    ...of,
    ...figures,
    measured: NOW as never,
    histogramTo: histogram.to,
    histogramCounts: histogram.counts,
    saturatedShare: histogram.saturatedShare,
    solvedBy: pointing?.by ?? null,
    raDeg: pointing?.raDeg ?? null,
    decDeg: pointing?.decDeg ?? null,
    positionAngleDeg: pointing?.positionAngleDeg ?? null,
    scaleArcsec: pointing?.scaleArcsecPerPx ?? null,
    isMirrored: pointing?.isMirrored ?? null,
    solvedStars: pointing?.starCount ?? null,
    residualArcsec: pointing?.meanResidualArcsec ?? null,
    zeroPointMag: zeroPoint?.mag ?? null,
    zeroPointScatterMag: zeroPoint?.scatterMag ?? null,
    zeroPointStars: zeroPoint?.starCount ?? null,
  });

export interface UnmeasuredFrame {
  readonly exposureId: string;
  readonly observatoryId: string;
  readonly name: string;
  readonly sizeBytes: number;
}

/** Files that are here whole and were not measured by this method, the newest first. */
export async function unmeasuredFrames(
  { models }: Queries,
  method: number,
  without: readonly string[],
  most: number,
): Promise<UnmeasuredFrame[]> {
  const measured = literal(`(SELECT exposure_id FROM frame_measures WHERE method = ${method})`);
  const rows = await models.Frame.findAll({
    where: {
      copied: { [Op.ne]: null },
      [Op.and]: [{ exposureId: { [Op.notIn]: measured } }, { exposureId: { [Op.notIn]: [...without] } }],
    },
    order: [['copied', 'DESC']],
    limit: most,
  });
  return rows.map(({ exposureId, observatoryId, name, sizeBytes }) => ({
    ...{ exposureId, observatoryId, name },
    sizeBytes: Number(sizeBytes),
  }));
}

export async function goalsOf({ models }: Queries, exposureIds: readonly string[]): Promise<string[]> {
  const rows = await models.LedgerRow.findAll({ where: { exposureId: [...exposureIds], goalId: { [Op.ne]: null } } });
  return [...new Set(rows.map(({ goalId }) => goalId!))];
}

export interface Intended extends PointingHint {
  /** Of its panel. */
  readonly positionAngleDeg: number | null;
}

/** Where its panel asked for it when it was recorded, and by what it was taken. */
export async function intendedOf({ models }: Queries, exposureId: string): Promise<Intended> {
  const exposure = (await models.Exposure.findByPk(exposureId, {
    include: [{ association: 'rigRevision', include: ['camera'] }],
    rejectOnEmpty: true,
  })) as unknown as TakenBy;
  const row = await models.LedgerRow.findOne({ where: { exposureId, panelId: { [Op.ne]: null } } });
  const pointing = row && (await pointingAt({ models }, row.panelId!, exposure.recorded));
  const { focalLengthMm, camera } = exposure.rigRevision;
  return {
    near: placeOf(pointing),
    positionAngleDeg: pointing?.positionAngleDeg ?? null,
    scaleArcsecPerPx: imageScaleArcsec({ focalLengthMm, pixelUm: camera.pixelUm, binning: exposure.binning }),
    exposureSec: exposure.exposureS,
    isSimulated: exposure.simulated,
  };
}

/** The newest that stood by then; its first where it has been written down since. */
const pointingAt = async ({ models }: Pick<Queries, 'models'>, panelId: string, at: Date) =>
  (await models.PanelPointing.findOne({ where: { panelId, created: { [Op.lte]: at } }, order: [['seq', 'DESC']] })) ??
  models.PanelPointing.findOne({ where: { panelId }, order: [['seq', 'ASC']] });

interface TakenBy {
  readonly recorded: Date;
  readonly exposureS: number;
  readonly binning: number;
  readonly simulated: boolean;
  readonly rigRevision: { readonly focalLengthMm: number; readonly camera: { readonly pixelUm: number } };
}

const placeOf = (pointing: { raDeg: number | null; decDeg: number | null } | null): SkyPosition | null =>
  pointing?.raDeg == null || pointing.decDeg === null ? null : { raDeg: pointing.raDeg, decDeg: pointing.decDeg };
