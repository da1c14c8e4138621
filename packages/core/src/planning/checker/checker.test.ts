import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { checkedExposures } from '../../../test/sky-violations.ts';
import { sunPassage } from '../../sky/events.ts';
import { planNight } from '../night/plan-night.ts';
import type { NightProblem, Placement } from '../problem.ts';
import type { CheckedExposure, ViolationCode } from './index.ts';
import { checkNight, checkSky } from './index.ts';

// A sound night: two panels, 100 s of travel, 20 s of filter change, cycles of 110 s.
const goal = (id: string, panel: number, project: number, count: number) => ({
  id,
  project,
  panel,
  exposureSec: 100,
  cycleSec: 110,
  count,
  value: 1,
  windows: [
    { fromSec: 0, toSec: 3000 },
    { fromSec: 4000, toSec: 9000 },
  ],
  rate: { stepSec: 100, values: new Float64Array(100).fill(0.5) },
});
const problem: NightProblem = {
  lengthSec: 10_000,
  goals: [goal('a', 0, 0, 20), goal('b', 0, 0, 20), goal('c', 1, 1, 8)],
  panelCount: 2,
  panelChangeSec: [
    [50, 50],
    [0, 100],
    [100, 0],
  ],
  goalChangeSec: () => 20,
  projectBonus: [0, 5],
  balances: [],
  minStayOfPanelSec: [1000, 1000, 1000],
};
const run = (g: number, from: number, count: number, cycle = 110): Placement => ({
  goal: g,
  startsSec: Array.from({ length: count }, (_, i) => from + i * cycle),
});
const sound: readonly Placement[] = [run(0, 50, 10), run(1, 1170, 5), run(2, 4000, 8)];

const planted: readonly (readonly [string, ViolationCode, readonly Placement[]])[] = [
  ['a first exposure before preparation', 'CHANGE_TOO_SHORT', [run(0, 10, 10)]],
  ['an exposure before its window', 'OUTSIDE_WINDOW', [run(0, 3100, 10)]],
  ['an exposure across a window’s end', 'OUTSIDE_WINDOW', [run(0, 1950, 10)]],
  ['an exposure across a window’s start', 'OUTSIDE_WINDOW', [run(0, 3950, 10)]],
  ['an exposure past the last window', 'OUTSIDE_WINDOW', [run(0, 8950, 1), run(0, 9060, 9)]],
  ['an exposure past the night', 'PAST_NIGHT_END', [run(0, 9000, 10)]],
  ['overlapping exposures', 'OVERLAP', [run(0, 50, 10, 60)]],
  ['an overlap of two panels', 'OVERLAP', [run(0, 50, 10), run(2, 1080, 8)]],
  ['equal starts', 'OVERLAP', [run(0, 50, 10), run(1, 1040, 10)]],
  ['no time for download', 'CYCLE_TOO_SHORT', [run(0, 50, 10, 104)]],
  ['no time for travel', 'CHANGE_TOO_SHORT', [run(0, 50, 10), run(2, 1200, 8)]],
  ['no time for the filter', 'CHANGE_TOO_SHORT', [run(0, 50, 10), run(1, 1151, 10)]],
  ['no time for the filter back', 'CHANGE_TOO_SHORT', [run(0, 50, 5), run(1, 620, 5), run(0, 1171, 5)]],
  ['more exposures than are left', 'TOO_MANY', [run(2, 50, 9)]],
  ['more exposures in two runs', 'TOO_MANY', [run(2, 50, 5), run(0, 700, 10), run(2, 4000, 5)]],
  ['a short stay that finishes nothing', 'STAY_TOO_SHORT', [run(0, 50, 3)]],
  ['a short stay between two others', 'STAY_TOO_SHORT', [run(0, 50, 10), run(2, 1250, 2), run(1, 1600, 12)]],
  ['a goal that is not there', 'UNKNOWN_GOAL', [run(7, 50, 3)]],
];

describe('the checker of plans', () => {
  it('finds nothing in a sound night and recounts its value', () => {
    const { value, violations } = checkNight(problem, sound);
    expect(violations).toEqual([]);
    expect(value).toBeCloseTo(23 * 0.5 + 5, 9);
  });

  it.each(planted)('finds %s', (_, code, placements) => {
    expect(checkNight(problem, placements).violations.map((found) => found.code)).toContain(code);
  });
});

describe('the checker of the sky', () => {
  const request = nightInstance({ seed: 7, goals: 12 });
  const { plan } = planNight(request, { seed: 1, iterations: 500 });
  const exposures = checkedExposures(request, plan).slice(0, 3);
  const at = {
    site: request.site,
    horizon: request.horizon,
    mountAltitudeMinDeg: 15,
    zenithMagV: 21.8,
    timeZone: request.timeZone,
  };
  const day = Math.round(Date.parse(request.night.nightDate) / 86_400_000);
  const wordsOf = (changed: Partial<CheckedExposure>, place = at): string =>
    checkSky(
      place,
      exposures.map((e) => ({ ...e, ...changed })),
    )[0]?.words ?? '';
  const noonUtcMs = request.night.startUtcMs;

  it('finds nothing in a plan of its own night', () => {
    expect(exposures).toHaveLength(3);
    expect(checkSky(at, exposures)).toEqual([]);
  });

  it.each<[string, Partial<CheckedExposure>, RegExp]>([
    ['daylight', { startUtcMs: noonUtcMs }, /sun at/],
    ['a target that is too low', { minAltitudeDeg: 89.9 }, /altitude/],
    ['a target below the horizon profile', { horizonMarginDeg: 85 }, /over the horizon/],
    ['a target on the other side of the Earth', { position: { raDeg: 0, decDeg: 89 } }, /mount/],
    ['an hour angle', { hourAngleMaxHours: 0 }, /hour angle/],
    ['the meridian', { flipKeepOutMin: { before: 800, after: 800 } }, /meridian/],
    ['too little light', { minRateShare: 1.5 }, /rate/],
    ['dusk that is not long enough ago', { afterDuskMin: 600, beforeDawnMin: 600 }, /twilight is counted/],
    ['the sky near the zenith', { zenithKeepOutDeg: 89 }, /from the zenith/],
    ['a moon that should be down', { moonAltitudeMaxDeg: -90 }, /moon up/],
    ['an hour too early', { notBeforeClockMin: 11 * 60 }, /too early/],
    ['an hour too late', { notAfterClockMin: 13 * 60 }, /too late/],
    ['a night before the first', { firstNightDay: day + 1 }, /dates/],
    ['a night after the last', { lastNightDay: day - 1 }, /dates/],
  ])('finds %s', (_, changed, words) => expect(wordsOf(changed)).toMatch(words));

  it('finds nothing where each of these limits is kept', () => {
    const kept = { firstNightDay: day, lastNightDay: day, notBeforeClockMin: 12 * 60, notAfterClockMin: 11 * 60 + 59 };
    expect(wordsOf(kept)).toBe('');
  });

  it('counts minutes after dusk and before dawn from the sun’s own depth', () => {
    // The first moment at which the sun has the depth: earlier by the minutes that are taken off, not by one more.
    const [{ sunAltitudeMaxDeg, ...first }] = exposures;
    const dusk = sunPassage(request.site, request.night, sunAltitudeMaxDeg).duskUtcMs!;
    const at20 = { ...first, exposureSec: 1, startUtcMs: dusk + 20 * 60_000 };
    const freed = { minAltitudeDeg: null, horizonMarginDeg: -90, minRateShare: null, flipKeepOutMin: null };
    const lifted = { ...freed, moonSeparationMinDeg: null, moonlightToleranceMag: null, hourAngleMaxHours: null };
    const words = (afterDuskMin: number): string =>
      checkSky({ ...at, mountAltitudeMinDeg: -90 }, [{ ...at20, ...lifted, sunAltitudeMaxDeg, afterDuskMin }])[0]
        ?.words ?? '';
    expect(words(19)).toBe('');
    expect(words(21)).toMatch(/twilight is counted/);
  });

  it('finds a moon that is too near or too bright', () => {
    // 2029-01-30 is full moon; the moon is high at local midnight.
    const full = {
      startUtcMs: Date.parse('2029-01-31T05:00:00Z'),
      minAltitudeDeg: null,
      horizonMarginDeg: -90,
      flipKeepOutMin: null,
      minRateShare: null,
      position: { raDeg: 120, decDeg: -20 },
    };
    expect(wordsOf({ ...full, moonSeparationMinDeg: 175 }, { ...at, mountAltitudeMinDeg: -90 })).toMatch(
      /moon .* away/,
    );
    expect(
      wordsOf({ ...full, moonSeparationMinDeg: null, moonlightToleranceMag: 0.1 }, { ...at, mountAltitudeMinDeg: -90 }),
    ).toMatch(/moonlight/);
  });
});
