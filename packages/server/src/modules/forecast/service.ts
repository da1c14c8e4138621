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
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { fetchForecast } from './source.ts';
import type { StoredHour } from './repository.ts';
import { hoursOf, newestIssueUtcMs, replaceHours } from './repository.ts';

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

export function createForecastService({ database, clock, config, observatory: observatories }: ForecastParts) {
  const store = (
    viewer: Pick<Viewer, 'observatoryId'>,
    hours: readonly ForecastHour[],
  ): Promise<{ sources: number; hours: number }> =>
    database.transaction(async (queries) => {
      const sources = [...new Set(hours.map(({ source }) => source))];
      const unique = [...new Map(hours.map((hour) => [`${hour.source} ${hour.utcMs}`, hour])).values()];
      await replaceHours(queries, viewer.observatoryId, unique, clock.nowUtcMs());
      await announce(queries, viewer.observatoryId, 'forecast');
      return { sources: sources.length, hours: unique.length };
    });

  const asked = (): Promise<ForecastHour[]> => fetchForecast(config.simulatorUrl, clock.nowUtcMs());

  async function refreshIfStale(viewer: Pick<Viewer, 'observatoryId'>): Promise<void> {
    const ageMs = clock.nowUtcMs() - (await newestIssueUtcMs(database, viewer.observatoryId, clock.nowUtcMs()));
    if (!config.simulatorUrl || ageMs < STALE_MS) return;
    // A silent service leaves what is known; the page says how old it is.
    const hours = await asked().catch(() => null);
    if (hours) await store(viewer, hours);
  }

  return {
    async read(viewer: Pick<Viewer, 'observatoryId'>, nightDate: string): Promise<NightForecast> {
      const site = await observatories.site(viewer.observatoryId);
      const night = observingNight(
        nightDate === 'tonight' ? nightDateAt(clock.nowUtcMs(), site.timeZone) : nightDate,
        site.timeZone,
      );
      await refreshIfStale(viewer);
      const hours = await hoursOf(database, viewer.observatoryId, night);
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
