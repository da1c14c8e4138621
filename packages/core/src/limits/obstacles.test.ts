import { describe, expect, it } from '@jest/globals';
import { horizonProfile } from '../sky/horizon.ts';
import type { LimitKey } from './limit-table.ts';
import { DEFAULT_BOUNDS, limitsInForce } from './limit-values.ts';
import type { Circumstances, RuleContext } from './obstacles.ts';
import { rulesFor } from './obstacles.ts';

const HOUR_MS = 3_600_000;
const night = { startUtcMs: 0, endUtcMs: 24 * HOUR_MS };
const fine: Circumstances = {
  utcMs: 12 * HOUR_MS,
  altitudeDeg: 60,
  azimuthDeg: 90,
  hourAngleDeg: -15,
  sunAltitudeDeg: -40,
  moonAltitudeDeg: 30,
  moonSeparationDeg: 80,
  moonBrighteningMag: 0.2,
  rateShare: 0.9,
};

function failing(
  values: Partial<Record<LimitKey, number | null>>,
  changes: Partial<Circumstances> = {},
  context: Partial<RuleContext> = {},
): string[] {
  const stored = Object.entries(values).map(([key, value]) => ({
    scope: 'goal' as const,
    class: null,
    key: key as LimitKey,
    value,
  }));
  const rules = rulesFor({
    night,
    nightDay: 20_000,
    limits: limitsInForce(stored, 'broadband'),
    bounds: DEFAULT_BOUNDS,
    horizon: horizonProfile([{ azimuthDeg: 0, altitudeDeg: 20 }]),
    moonIlluminatedShare: 0.8,
    sunPassage: { duskUtcMs: 9 * HOUR_MS, dawnUtcMs: 17 * HOUR_MS },
    notBeforeUtcMs: null,
    notAfterUtcMs: null,
    flipBlackouts: [],
    ...context,
  });
  return rules.filter((rule) => !(rule.margin({ ...fine, ...changes }) >= 0)).map((rule) => rule.code);
}

describe('rules', () => {
  it('let a fine moment pass', () => expect(failing({})).toEqual([]));

  it.each<[string, Partial<Record<LimitKey, number | null>>, Partial<Circumstances>, string[]]>([
    ['the sun’s bound, whatever the limit says', { sunAltitudeMaxDeg: null }, { sunAltitudeDeg: -5 }, ['SUN_BOUND']],
    [
      'the mount’s bound',
      { minAltitudeDeg: null, horizonMarginDeg: 0 },
      { altitudeDeg: 10 },
      ['BELOW_MOUNT', 'BELOW_HORIZON'],
    ],
    ['the horizon with its margin', { horizonMarginDeg: 5 }, { altitudeDeg: 24 }, ['BELOW_HORIZON', 'TARGET_TOO_LOW']],
    ['the altitude', { minAltitudeDeg: 61 }, {}, ['TARGET_TOO_LOW']],
    ['any sun depth', { sunAltitudeMaxDeg: -41 }, {}, ['TWILIGHT']],
    ['the hour angle, east as west', { hourAngleMaxHours: 0.5 }, {}, ['HOUR_ANGLE']],
    ['the zenith', { zenithKeepOutDeg: 5 }, { altitudeDeg: 87 }, ['NEAR_ZENITH']],
    ['the moon being up', { moonAltitudeMaxDeg: 0 }, {}, ['MOON_UP']],
    ['the moon’s distance', { moonSeparationMinDeg: 90 }, {}, ['MOON_TOO_NEAR']],
    ['moonlight', { moonlightToleranceMag: 0.1 }, {}, ['MOONLIGHT']],
    ['too little light', { minRateShare: 0.95 }, {}, ['RATE_TOO_SMALL']],
    ['dates not begun', { firstNightDay: 20_001 }, {}, ['OUTSIDE_DATES']],
    ['dates over', { lastNightDay: 19_999 }, {}, ['OUTSIDE_DATES']],
  ])('name %s', (_, values, changes, codes) => expect(failing(values, changes)).toEqual(codes));

  it('forget the moon’s distance while it is down or hardly lit', () => {
    expect(failing({ moonSeparationMinDeg: 90 }, { moonAltitudeDeg: -2 })).toEqual([]);
    expect(failing({ moonSeparationMinDeg: 90 }, {}, { moonIlluminatedShare: 0.1 })).toEqual([]);
  });

  it('take off as no rule at all', () =>
    expect(failing({ minAltitudeDeg: null, minRateShare: null }, { altitudeDeg: 25, rateShare: 0.01 })).toEqual([]));

  it('shift dusk and dawn by minutes, and negative minutes widen', () => {
    const at = (hour: number, values: Partial<Record<LimitKey, number>>): string[] =>
      failing(values, { utcMs: hour * HOUR_MS, sunAltitudeDeg: -17.5 });
    expect(at(9.2, { afterDuskMin: 20 })).toEqual(['TWILIGHT']);
    expect(at(9.5, { afterDuskMin: 20 })).toEqual([]);
    expect(at(8.8, { afterDuskMin: -20 })).toEqual([]);
    expect(at(17.2, { beforeDawnMin: -20 })).toEqual([]);
    expect(at(16.9, { beforeDawnMin: 20 })).toEqual(['TWILIGHT']);
  });

  it('keep clear of the flip and of the clock’s hours', () => {
    const blackout = { startUtcMs: 11.9 * HOUR_MS, endUtcMs: 12.1 * HOUR_MS };
    expect(failing({}, {}, { flipBlackouts: [blackout] })).toEqual(['MERIDIAN_FLIP']);
    expect(failing({}, { utcMs: 12.2 * HOUR_MS }, { flipBlackouts: [blackout] })).toEqual([]);
    expect(failing({}, {}, { notBeforeUtcMs: 13 * HOUR_MS })).toEqual(['TOO_EARLY']);
    expect(failing({}, {}, { notAfterUtcMs: 11 * HOUR_MS })).toEqual(['TOO_LATE']);
  });

  it('say where a limit comes from', () => {
    const rules = rulesFor({
      night,
      nightDay: 0,
      limits: limitsInForce([{ scope: 'project', class: 'broadband', key: 'minAltitudeDeg', value: 33 }], 'broadband'),
      bounds: DEFAULT_BOUNDS,
      horizon: horizonProfile([]),
      moonIlluminatedShare: 0,
      sunPassage: { duskUtcMs: null, dawnUtcMs: null },
      notBeforeUtcMs: null,
      notAfterUtcMs: null,
      flipBlackouts: [],
    });
    expect(rules.find((rule) => rule.code === 'TARGET_TOO_LOW')).toMatchObject({ limit: 33, origin: 'project class' });
    expect(rules.find((rule) => rule.code === 'SUN_BOUND')).toMatchObject({ limit: -9, origin: 'bound' });
  });
});
