// The forecast stand-in: several made-up sources that see the same weather through their own errors, hour by hour.
import type { ForecastHour } from '@meridiem/core';
import { HOUR_MS, seededRandom, seedFrom } from '@meridiem/core';

/** Hours over which the weather changes its mind. */
const SPELL_HOURS = 9;
/** Made-up sources: how far each errs in cloud, wind and humidity, and which way it leans. */
const SOURCES = [
  { name: 'Plateau grid', error: 0.12, lean: 0 },
  { name: 'Coastal model', error: 0.22, lean: 0.08 },
  { name: 'Cloud-top trend', error: 0.3, lean: -0.06 },
] as const;

/** Smooth seeded noise in [0, 1). */
function noise(seed: string, hour: number, spellHours: number): number {
  const at = hour / spellHours;
  const before = Math.floor(at);
  const along = at - before;
  const smooth = along * along * (3 - 2 * along);
  const value = (index: number): number => seededRandom(seedFrom(`${seed} ${index}`))();
  return value(before) * (1 - smooth) + value(before + 1) * smooth;
}

const within = (value: number): number => Math.min(1, Math.max(0, value));

/** What each source says of the coming hours; sources disagree more the further they look. */
export function forecastOf(seed: string, fromUtcMs: number, hours: number): ForecastHour[] {
  const first = Math.floor(fromUtcMs / HOUR_MS);
  return SOURCES.flatMap(({ name, error, lean }) =>
    Array.from({ length: hours }, (_, i): ForecastHour => {
      const hour = first + i;
      const growth = 0.5 + Math.min(1.5, i / 48);
      const off = (what: string): number => (noise(`${seed} ${name} ${what}`, hour, 5) - 0.5) * 2 * error * growth;
      const cloud = within((noise(`${seed} cloud`, hour, SPELL_HOURS) - 0.42) * 2.2);
      const humidity = 0.35 + 0.4 * noise(`${seed} humidity`, hour, 14) + 0.25 * cloud;
      const wind = 2 + 11 * noise(`${seed} wind`, hour, 11);
      return {
        source: name,
        utcMs: hour * HOUR_MS,
        cloudShare: Math.round(100 * within(cloud + off('cloud') + lean)) / 100,
        windMPerSec: Math.round(10 * Math.max(0, wind + 8 * off('wind'))) / 10,
        humidityShare: Math.round(100 * within(humidity + 0.5 * off('humidity'))) / 100,
      };
    }),
  );
}
