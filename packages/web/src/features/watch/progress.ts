// How far a night is: what was planned against what happened, and what is left of the stay and of the night, filter by filter.
import type { SiteReading, WatchedStep } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { clock, count } from '../../words/format.ts';

export interface FilterCount {
  readonly filterLetter: string;
  readonly filterClass: FilterClass;
  readonly taken: number;
  readonly lost: number;
  readonly all: number;
}

/** Counts by filter, in the order in which the filters first come. */
export function filterCounts(steps: readonly WatchedStep[]): FilterCount[] {
  const counts = new Map<string, FilterCount>();
  for (const { filterLetter, filterClass, outcome } of steps) {
    const { taken, lost, all } = counts.get(filterLetter) ?? { taken: 0, lost: 0, all: 0 };
    counts.set(filterLetter, {
      filterLetter,
      filterClass,
      taken: taken + Number(outcome === 'done'),
      lost: lost + Number(outcome === 'lost'),
      all: all + 1,
    });
  }
  return [...counts.values()];
}

export interface Stay {
  readonly panelName: string;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly steps: readonly WatchedStep[];
}

const endOf = (step: WatchedStep): number => step.plannedUtcMs + 1000 * step.exposureSec;

function grouped<K>(steps: readonly WatchedStep[], keyOf: (step: WatchedStep) => K): Map<K, WatchedStep[]> {
  const groups = new Map<K, WatchedStep[]>();
  for (const step of steps) groups.set(keyOf(step), [...(groups.get(keyOf(step)) ?? []), step]);
  return groups;
}

export const staysOf = (steps: readonly WatchedStep[]): Stay[] =>
  [...grouped(steps, ({ stay }) => stay).values()].map((of) => ({
    panelName: of[0].panelName,
    startUtcMs: of[0].plannedUtcMs,
    endUtcMs: endOf(of.at(-1)!),
    steps: of,
  }));

/** What was planned and has not come yet of the stay at hand; null where nothing is left of the night. */
export function stayLeft(steps: readonly WatchedStep[], zone: string): string | null {
  const stay = staysOf(steps).find((one) => one.steps.some(({ outcome }) => outcome === null));
  if (!stay) return null;
  const left = stay.steps.filter(({ outcome }) => outcome === null);
  const counts = filterCounts(left).map(({ filterLetter, all }) => `${count(all)} ${filterLetter}`);
  return `${counts.join(', ')}, planned until ${clock(stay.endUtcMs, zone)}`;
}

/** Stays that did not come off whole, each with how many exposures are missing and the commonest reason. */
export const missed = (steps: readonly WatchedStep[]): string[] =>
  staysOf(steps).flatMap(({ panelName, steps: of }) => {
    const lost = of.filter(({ outcome }) => outcome === 'lost');
    if (lost.length === 0) return [];
    const reasons = grouped(lost, ({ words }) => words ?? 'no reason is known');
    const [why] = [...reasons].toSorted(([, a], [, b]) => b.length - a.length)[0];
    return [`${panelName}: ${count(lost.length)} of ${count(of.length)} not taken. ${why}`];
  });

export interface SiteFact {
  readonly name: string;
  readonly words: string;
}

const signed = (value: number, digits: number): string => value.toFixed(digits).replace('-', '−');
const joined = (parts: readonly (string | null)[]): string | null => parts.filter(Boolean).join(', ') || null;
const put = (value: number | null, words: (value: number) => string): string | null =>
  value === null ? null : words(value);

/** How the site stood at the last reading, in words; what no device measures is left out. */
export function siteFacts(reading: SiteReading): SiteFact[] {
  const { isSafe, isParked } = reading;
  const air = joined([
    put(reading.temperatureC, (c) => `${signed(c, 0)} °C`),
    put(reading.humidityPercent, (share) => `${share.toFixed(0)} % humidity`),
  ]);
  const sky = joined([
    put(reading.cloudCoverPercent, (share) => `${share.toFixed(0)} % cloud`),
    put(reading.windMPerSec, (speed) => `wind ${speed.toFixed(0)} m/s`),
  ]);
  const sensor = joined([
    put(reading.sensorC, (c) => `${signed(c, 1)} °C`),
    put(reading.coolerPowerPercent, (share) => `cooler at ${share.toFixed(0)} %`),
  ]);
  const mount = isParked
    ? 'parked'
    : put(reading.altitudeDeg, (deg) => `${deg.toFixed(0)}° high, azimuth ${(reading.azimuthDeg ?? 0).toFixed(0)}°`);
  const named = (name: string, words: string | null): SiteFact[] => (words === null ? [] : [{ name, words }]);
  return [
    { name: 'Safety', words: isSafe ? 'safe' : 'not safe' },
    ...named('Sky', sky),
    ...named('Air', air),
    ...named('Sensor', sensor),
    ...named('Mount', mount),
  ];
}
