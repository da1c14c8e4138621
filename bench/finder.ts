// Ranking the shipped catalogue for thirty nights and one target's year, beside the arcs alone in the same run.
import type { WorthSetting } from '@meridiem/core';
import {
  DEFAULT_BOUNDS,
  horizonProfile,
  limitsInForce,
  nightDatePlus,
  observingNight,
  rankByWorth,
  STANDARD_FILTERS,
  yearOfHours,
} from '@meridiem/core';
import { loadCatalogue } from '../packages/server/src/modules/catalogue/index.ts';

const TIME_ZONE = 'Australia/Adelaide';
const classOf = (letter: string) => {
  const filter = STANDARD_FILTERS.find((one) => one.letter === letter)!;
  return { class: filter.class, filter, exposureSec: 180, limits: limitsInForce([], filter.class) };
};
const SETTING: WorthSetting = {
  site: { latitudeDeg: -31.4, longitudeDeg: 138.6, elevationM: 540 },
  timeZone: TIME_ZONE,
  horizon: horizonProfile([
    { azimuthDeg: 0, altitudeDeg: 12 },
    { azimuthDeg: 90, altitudeDeg: 20 },
    { azimuthDeg: 200, altitudeDeg: 8 },
  ]),
  bounds: DEFAULT_BOUNDS,
  zenithMagV: 21.7,
  detector: {
    apertureMm: 100,
    obstructionShare: 0,
    focalLengthMm: 500,
    pixelUm: 3.8,
    throughput: 0.5,
    readNoiseE: 1.6,
    darkCurrentEPerSec: 0.005,
    binning: 1,
  },
  classes: [classOf('L'), classOf('Ha')],
};

export function benchFinder(): string[] {
  const objects = [...new Set(loadCatalogue().byKey.values())];
  const nights = (count: number) =>
    Array.from({ length: count }, (_, i) => observingNight(nightDatePlus('2026-11-24', i), TIME_ZONE));
  const [year, month] = [nights(365), nights(30)];
  const timed = (work: () => unknown): number => {
    const started = performance.now();
    work();
    return performance.now() - started;
  };
  // Cold: the first of its kind in this process.
  const yearMs = timed(() => yearOfHours(SETTING, { raDeg: 84, decDeg: -5 }, year));
  const rank = (sampled: number) => (): unknown =>
    rankByWorth(SETTING, { objects, nights: month, by: 0, fieldDeg: 1.2, sampled });
  const rankMs = timed(rank(500));
  const arcsMs = timed(rank(0));
  return [
    `| a target's year, cold | ${yearMs.toFixed(0)} ms | limit 300 ms | |`,
    `| ${objects.length} objects ranked for 30 nights, 500 sampled | ${rankMs.toFixed(0)} ms | arcs alone ${arcsMs.toFixed(0)} ms | ${(rankMs / arcsMs).toFixed(1)}, limit 2 s |`,
  ];
}
