// Forecasts as rows: hour by hour and source by source, the newest said of each.
import type { ForecastHour, Interval } from '@meridiem/core';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';

export interface StoredHour extends ForecastHour {
  readonly issuedUtcMs: number;
}

/** What its sources said before of the same stretch is gone. */
export async function replaceHours(
  { models }: Queries,
  observatoryId: string,
  hours: readonly ForecastHour[],
  issuedUtcMs: number,
): Promise<void> {
  const moments = hours.map(({ utcMs }) => utcMs);
  await models.Forecast.destroy({
    where: {
      observatoryId,
      source: { [Op.in]: [...new Set(hours.map(({ source }) => source))] },
      hour: { [Op.between]: [new Date(Math.min(...moments)), new Date(Math.max(...moments))] },
    },
  });
  const issued = new Date(issuedUtcMs);
  await models.Forecast.bulkCreate(
    hours.map(({ source, utcMs, cloudShare, windMPerSec, humidityShare }) => ({
      observatoryId,
      source,
      hour: new Date(utcMs),
      issued,
      cloudShare,
      windMPerS: windMPerSec,
      humidityShare,
    })),
  );
}

/** @returns −Infinity where nothing has been said yet */
export async function newestIssueUtcMs({ models }: Queries, observatoryId: string, nowUtcMs: number): Promise<number> {
  const newest = await models.Forecast.findOne({
    where: { observatoryId, issued: { [Op.lte]: new Date(nowUtcMs) } },
    order: [['issued', 'DESC']],
  });
  return newest?.issued.getTime() ?? -Infinity;
}

export async function hoursOf(
  { models }: Queries,
  observatoryId: string,
  { startUtcMs, endUtcMs }: Interval,
): Promise<StoredHour[]> {
  const rows = await models.Forecast.findAll({
    where: { observatoryId, hour: { [Op.gte]: new Date(startUtcMs), [Op.lt]: new Date(endUtcMs) } },
    order: ['hour', 'source'],
  });
  return rows.map(({ source, hour, issued, cloudShare, windMPerS, humidityShare }) => ({
    source,
    utcMs: hour.getTime(),
    issuedUtcMs: issued.getTime(),
    cloudShare,
    windMPerSec: windMPerS,
    humidityShare,
  }));
}
