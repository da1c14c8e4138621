// The weather over the simulated observatory: clear or not, staying as weather does, by a seed of the night.
import { clamp, normalFrom, seededRandom, seedFrom, toRad } from '@meridiem/core';

export interface Weather {
  /** Light that cloud takes, [0, 1]. */
  readonly cloudShare: number;
  readonly windMPerSec: number;
  readonly temperatureC: number;
  readonly humidityPercent: number;
  readonly seeingArcsec: number;
}

const STEP_MS = 20 * 60_000;
const DAY_MS = 86_400_000;
/** Chance that a spell of twenty minutes is like the one before. */
const STAYS = 0.94;
const CLEAR_SHARE = 0.8;

/** @param seed equal seeds give equal weather */
export function weatherAt(seed: number, utcMs: number): Weather {
  const step = Math.floor(utcMs / STEP_MS);
  const along = utcMs / STEP_MS - step;
  const cloudShare = cloudOf(seed, step) * (1 - along) + cloudOf(seed, step + 1) * along;
  const random = seededRandom(seed ^ seedFrom(`wind ${Math.floor(step / 6)}`));
  const hour = ((utcMs % DAY_MS) / DAY_MS) * 360;
  return {
    cloudShare,
    windMPerSec: clamp(4 + 2 * normalFrom(random), 0, 14),
    temperatureC: 11 + 6 * Math.cos(toRad(hour - 60)) + normalFrom(random),
    humidityPercent: clamp(45 + 12 * normalFrom(random) + 30 * cloudShare, 5, 100),
    seeingArcsec: clamp(2.3 + 0.4 * normalFrom(random), 1.2, 4.5),
  };
}

/** A spell is drawn anew where it does not stay; how far back that was is looked up, not remembered. */
function cloudOf(seed: number, step: number): number {
  for (let back = 0; back < 200; back++) {
    const random = seededRandom(seed ^ seedFrom(`spell ${step - back}`));
    if (random() < STAYS) continue;
    return random() < CLEAR_SHARE ? 0 : 0.3 + 0.7 * random();
  }
  return 0;
}

/** The weather of a sky that nothing comes over: for whoever must see a night through. */
export const calmed = (weather: Weather): Weather => ({
  ...weather,
  cloudShare: 0,
  windMPerSec: Math.min(weather.windMPerSec, CALM_WIND_M_PER_SEC),
});
const CALM_WIND_M_PER_SEC = 6;

/** Wind above which the station calls itself unsafe. */
export const MOST_WIND_M_PER_SEC = 15;
/** Cloud above which it does: rain may come with it. */
export const MOST_CLOUD = 0.9;
