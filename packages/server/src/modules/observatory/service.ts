// The site, its equipment and recipes: read as one, changed by dated revisions.
import type { Observatory, QueryOf, ResponseOf, checkSunset } from '@meridiem/contract';
import { darkIntervals, hoursOf, luminaryDirection, nightDateAt, observingNight, sunPassage } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { createCameraModes } from './camera-modes.ts';
import { createClimate } from './climate.ts';
import { createFilters } from './filters.ts';
import { createGearChanges } from './gear-changes.ts';
import { createRecipes } from './recipes.ts';
import type { RigRecord, SiteRecord } from './repository.ts';
import {
  climateOf,
  closuresOf,
  filtersOf,
  horizonOf,
  observatoryLimitsOf,
  recipesOf,
  retiredOf,
  rigsOf,
  siteOf,
} from './repository.ts';
import { createRetiring } from './retiring.ts';
import { createRigs } from './rigs.ts';
import { registerGoalFates } from './running-goals.ts';
import { createSite } from './site.ts';

export type { RigRecord, SiteRecord };
export type ObservatoryService = ReturnType<typeof createObservatoryService>;

export interface ObservatoryParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly changes: ChangeService;
}

/** What each use case needs: a change of the observatory is all or nothing, told to everybody, and answered with the whole. */
export interface ObservatoryUse {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly tonight: (site: SiteRecord) => string;
  readonly changing: (viewer: Viewer, work: (queries: Queries) => Promise<unknown>) => Promise<Observatory>;
}

export function createObservatoryService({ database, clock, changes }: ObservatoryParts) {
  registerGoalFates(changes);
  const tonight = (site: SiteRecord): string => nightDateAt(clock.nowUtcMs(), site.timeZone);

  async function read(observatoryId: string): Promise<Observatory> {
    const site = await siteOf(database, observatoryId);
    const today = tonight(site);
    const [horizon, limits, rigs, filters, recipes, retired, climate, closures] = await Promise.all([
      horizonOf(database, observatoryId),
      observatoryLimitsOf(database, observatoryId),
      rigsOf(database, observatoryId),
      filtersOf(database, observatoryId),
      recipesOf(database, observatoryId),
      retiredOf(database, observatoryId),
      climateOf(database, observatoryId),
      closuresOf(database, observatoryId, today),
    ]);
    const facts = { horizon, limits, rigs, filters, recipes, retired, climate, closures };
    return { ...site, ...facts, nowUtcMs: clock.nowUtcMs(), tonight: today };
  }

  async function changing(viewer: Viewer, work: (queries: Queries) => Promise<unknown>): Promise<Observatory> {
    await database.transaction(async (queries) => {
      await work(queries);
      for (const topic of ['observatory', 'plan', 'projects'] as const)
        await announce(queries, viewer.observatoryId, topic);
    });
    return read(viewer.observatoryId);
  }

  const use = { database, changes, tonight, changing };
  return {
    read,
    site: (observatoryId: string) => siteOf(database, observatoryId),
    tonight: async (observatoryId: string) => tonight(await siteOf(database, observatoryId)),

    sunset(place: QueryOf<typeof checkSunset>): ResponseOf<typeof checkSunset> {
      const nowUtcMs = clock.nowUtcMs();
      const night = observingNight(nightDateAt(nowUtcMs, place.timeZone), place.timeZone);
      const { duskUtcMs, dawnUtcMs } = sunPassage(place, night, -0.833);
      const noonSunAzimuthDeg = luminaryDirection(place, 'sun', night.startUtcMs).azimuthDeg;
      return {
        sunsetUtcMs: duskUtcMs,
        sunriseUtcMs: dawnUtcMs,
        noonSunAzimuthDeg,
        darkHours: hoursOf(darkIntervals(place, night)),
      };
    },
    ...createSite(use),
    ...createClimate(use),
    ...createRigs(use),
    ...createGearChanges(use),
    ...createCameraModes(use),
    ...createFilters(use),
    ...createRecipes(use),
    ...createRetiring(use),
  };
}
