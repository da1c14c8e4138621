// Forecasts of the coming nights: asked of the forecast service or taken in as a file, kept hour by hour and source by source.
import type { NightForecast } from '@meridiem/contract';
import type { ForecastHour, ObservingNight } from '@meridiem/core';
import {
  darkIntervals,
  HOUR_MS,
  isClear,
  nightDateAt,
  nightOutlook,
  observingNight,
  parseForecast,
} from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { fetchForecast } from './source.ts';

/** How old what the service said may get before it is asked again. */
const STALE_MS = 3 * HOUR_MS;
const ASTRONOMICAL_DEG = -18;

export type ForecastService = ReturnType<typeof createForecastService>;

export interface ForecastParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly config: Config;
  readonly observatory: ObservatoryService;
}

interface StoredHour extends ForecastHour {
  readonly issuedUtcMs: number;
}

export function createForecastService({ database, clock, config, observatory: observatories }: ForecastParts) {
  const store = (viewer: Viewer, hours: readonly ForecastHour[]): Promise<{ sources: number; hours: number }> =>
    database.transaction(async (queries) => {
      const sources = [...new Set(hours.map(({ source }) => source))];
      const issued = new Date(clock.nowUtcMs()).toISOString();
      const unique = [...new Map(hours.map((hour) => [`${hour.source} ${hour.utcMs}`, hour])).values()];
      await queries.rows(
        'DELETE FROM forecasts WHERE observatory_id = $1 AND source = ANY ($2) AND hour >= $3 AND hour <= $4',
        [
          viewer.observatoryId,
          sources,
          isoOf(Math.min(...hours.map(({ utcMs }) => utcMs))),
          isoOf(Math.max(...hours.map(({ utcMs }) => utcMs))),
        ],
      );
      await insertRows(
        queries,
        'forecasts',
        unique.map((hour) => ({
          observatory_id: viewer.observatoryId,
          source: hour.source,
          hour: isoOf(hour.utcMs),
          issued,
          cloud_share: hour.cloudShare,
          wind_m_per_s: hour.windMPerSec,
          humidity_share: hour.humidityShare,
        })),
      );
      await announce(queries, viewer.observatoryId, 'forecast');
      return { sources: sources.length, hours: unique.length };
    });

  const asked = (): Promise<ForecastHour[]> => fetchForecast(config.simulatorUrl, clock.nowUtcMs());

  async function refreshIfStale(viewer: Viewer): Promise<void> {
    const newest = await database.one<{ issuedUtcMs: number | null }>(
      'SELECT (extract(epoch FROM max(issued)) * 1000)::float8 AS "issuedUtcMs" FROM forecasts WHERE observatory_id = $1 AND issued <= $2',
      [viewer.observatoryId, isoOf(clock.nowUtcMs())],
    );
    const ageMs = clock.nowUtcMs() - (newest?.issuedUtcMs ?? -Infinity);
    if (!config.simulatorUrl || ageMs < STALE_MS) return;
    // A silent service leaves what is known; the page says how old it is.
    const hours = await asked().catch(() => null);
    if (hours) await store(viewer, hours);
  }

  return {
    async read(viewer: Viewer, nightDate: string): Promise<NightForecast> {
      const site = await observatories.site(viewer.observatoryId);
      const night = observingNight(
        nightDate === 'tonight' ? nightDateAt(clock.nowUtcMs(), site.timeZone) : nightDate,
        site.timeZone,
      );
      await refreshIfStale(viewer);
      const hours = await database.rows<StoredHour>(
        `SELECT source, (extract(epoch FROM hour) * 1000)::float8 AS "utcMs", (extract(epoch FROM issued) * 1000)::float8 AS "issuedUtcMs",
           cloud_share AS "cloudShare", wind_m_per_s AS "windMPerSec", humidity_share AS "humidityShare"
         FROM forecasts WHERE observatory_id = $1 AND hour >= $2 AND hour < $3 ORDER BY hour, source`,
        [viewer.observatoryId, isoOf(night.startUtcMs), isoOf(night.endUtcMs)],
      );
      return forecastPage(site, night, hours);
    },

    fetch: async (viewer: Viewer) => store(viewer, await asked()),
    import: (viewer: Viewer, text: string) => store(viewer, parseForecast(text)),
  };
}

function forecastPage(
  site: Parameters<typeof darkIntervals>[0],
  night: ObservingNight,
  hours: readonly StoredHour[],
): NightForecast {
  const dark = darkIntervals(site, night, ASTRONOMICAL_DEG);
  const span = dark.length === 0 ? null : { startUtcMs: dark[0].startUtcMs, endUtcMs: dark[dark.length - 1].endUtcMs };
  const { call, hoursClear, hoursDark, agreeing, sources } = nightOutlook(hours, span);
  const moments = [...new Set(hours.map(({ utcMs }) => utcMs))];
  return {
    nightDate: night.nightDate,
    call,
    hoursClear,
    hoursDark,
    agreeing,
    sources: sources.map(({ source, hoursClear: own }) => ({
      source,
      issuedUtcMs: Math.max(...hours.filter((hour) => hour.source === source).map(({ issuedUtcMs }) => issuedUtcMs)),
      hoursClear: own,
    })),
    hours: moments.map((utcMs) => {
      const own = hours.filter((hour) => hour.utcMs === utcMs);
      return {
        utcMs,
        clearShare: own.filter((hour) => isClear(hour)).length / own.length,
        bySource: own.map(({ source, cloudShare, windMPerSec, humidityShare }) => ({
          source,
          cloudShare,
          windMPerSec,
          humidityShare,
        })),
      };
    }),
  };
}

const isoOf = (utcMs: number): string => new Date(utcMs).toISOString();
