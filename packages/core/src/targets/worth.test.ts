import { describe, expect, it } from '@jest/globals';
import { STANDARD_FILTERS } from '../exposure/standard-filters.ts';
import { moonlightRatio, twilightRatio } from '../exposure/filter-sky.ts';
import { bestRate, rateModel, signalRate } from '../exposure/signal-rate.ts';
import { DEFAULT_BOUNDS, limitsInForce } from '../limits/limit-values.ts';
import { seededRandom } from '../random.ts';
import { directionOf, directionOfVector } from '../sky/altitude.ts';
import { angleBetweenDeg, apparentSiderealDeg, apparentVector, frameOfDate } from '../sky/frame-of-date.ts';
import { horizonAltitudeDeg, horizonProfile } from '../sky/horizon.ts';
import { darkHoursAbove, halfArcDeg, nightArcs } from '../sky/night-arcs.ts';
import { darkIntervals, hoursOf, upIntervals } from '../sky/events.ts';
import { luminaryDirection, luminaryVector, moonPhase } from '../sky/sun-moon.ts';
import { nightDatePlus, observingNight } from '../time/nights.ts';
import { HOUR_MS, MINUTE_MS } from '../units.ts';
import type { WorthObject, WorthSetting } from './worth.ts';
import { nightSky, rankByWorth, sizeFit, usableStretches, yearOfHours } from './worth.ts';

const site = { latitudeDeg: -29.3, longitudeDeg: 17.9, elevationM: 1100 };
const timeZone = 'Africa/Johannesburg';
const horizon = horizonProfile([
  { azimuthDeg: 0, altitudeDeg: 22 },
  { azimuthDeg: 60, altitudeDeg: 35 },
  { azimuthDeg: 120, altitudeDeg: 18 },
  { azimuthDeg: 240, altitudeDeg: 30 },
]);
const classOf = (letter: string) => {
  const filter = STANDARD_FILTERS.find((one) => one.letter === letter)!;
  return { class: filter.class, filter, exposureSec: 180, limits: limitsInForce([], filter.class) };
};
const setting: WorthSetting = {
  site,
  timeZone,
  horizon,
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
const nightsFrom = (first: string, count: number) =>
  Array.from({ length: count }, (_, i) => observingNight(nightDatePlus(first, i), timeZone));
const random = seededRandom(31);
const objects: WorthObject[] = Array.from({ length: 700 }, () => ({
  raDeg: 360 * random(),
  decDeg: -85 + 125 * random(),
  sizeArcmin: random() < 0.2 ? null : 1 + 120 * random() ** 2,
}));

const STEP_MS = MINUTE_MS / 2;

/** Sun and moon every half minute of a night, by themselves. */
function luminariesOf(nightDate: string) {
  const night = observingNight(nightDate, timeZone);
  const frame = frameOfDate((night.startUtcMs + night.endUtcMs) / 2);
  const count = Math.floor((night.endUtcMs - night.startUtcMs) / STEP_MS);
  const moments = Array.from({ length: count }, (_, i) => {
    const utcMs = night.startUtcMs + (i + 0.5) * STEP_MS;
    const sunAltitudeDeg = luminaryDirection(site, 'sun', utcMs, frame).altitudeDeg;
    if (sunAltitudeDeg > -18) return null;
    const moon = luminaryVector(site, 'moon', utcMs);
    const moonAltitudeDeg = directionOfVector(site, moon, apparentSiderealDeg(frame, utcMs)).altitudeDeg;
    return { utcMs, sunAltitudeDeg, moon, moonAltitudeDeg, phaseAngleDeg: moonPhase(utcMs).phaseAngleDeg };
  });
  return { frame, moments: moments.filter((one) => one !== null) };
}
const known = new Map<string, ReturnType<typeof luminariesOf>>();

/** Hours of a night by looking every half minute at everything from scratch. */
function sampledHours(object: WorthObject, nightDate: string, letter: string): number {
  const { frame, moments } = known.get(nightDate) ?? luminariesOf(nightDate);
  known.set(nightDate, { frame, moments });
  const { filter, exposureSec, limits } = classOf(letter);
  const model = rateModel(filter, setting.detector, exposureSec);
  const best = bestRate(model, site.latitudeDeg, object.decDeg);
  const vector = apparentVector(frame, object);
  let [total, open] = [0, 0];
  const close = (): void => {
    if (open >= limits.minStretchMin.value! * MINUTE_MS) total += open;
    open = 0;
  };
  for (const { utcMs, sunAltitudeDeg, moon, moonAltitudeDeg, phaseAngleDeg } of moments) {
    const { altitudeDeg, azimuthDeg } = directionOf(site, object, utcMs, frame);
    const isUp =
      altitudeDeg >= limits.minAltitudeDeg.value! &&
      altitudeDeg >= horizonAltitudeDeg(horizon, azimuthDeg) + limits.horizonMarginDeg.value!;
    const separationDeg = angleBetweenDeg(moon, vector);
    const { zenithMagV } = setting;
    const moonRatioV = isUp
      ? moonlightRatio({ phaseAngleDeg, moonAltitudeDeg, altitudeDeg, separationDeg, zenithMagV })
      : 0;
    const twilightRatioV = twilightRatio(sunAltitudeDeg, zenithMagV);
    const share = isUp ? signalRate(model, altitudeDeg, { moonRatioV, twilightRatioV }) / best : 0;
    if (isUp && share >= limits.minRateShare.value!) open += STEP_MS;
    else close();
  }
  close();
  return total / HOUR_MS;
}

describe('what is worth the nights', () => {
  const nights = nightsFrom('2027-03-10', 14);
  const ranked = rankByWorth(setting, { objects, nights, by: 0, fieldDeg: 1.2, sampled: 300 })!;

  it('gives every object a rank, the most usable that fill the field first', () => {
    expect(ranked.length).toBe(objects.length);
    const sampled = ranked.slice(0, 300);
    expect(sampled.every(({ nightly }) => nightly !== null)).toBe(true);
    expect(sampled.map(({ worth }) => worth)).toEqual(sampled.map(({ worth }) => worth).toSorted((a, b) => b - a));
  });

  it('has hours within 2 minutes a night of looking every half minute, for its first 200', () => {
    for (const [i, { index, nightly }] of ranked.slice(0, 200).entries()) {
      // One night of each, a different one from object to object, moonlit and dark.
      const n = i % nights.length;
      const looked = sampledHours(objects[index], nights[n].nightDate, 'L');
      expect([i, Math.abs(looked - nightly![n]) * 60 <= 2]).toEqual([i, true]);
    }
  });

  it('names the best night and stops when told to', () => {
    const { best, nightly } = ranked[0];
    expect(best!.hours).toBe(Math.max(...nightly!));
    expect(rankByWorth(setting, { objects, nights, by: 0, fieldDeg: 1.2, sampled: 300 }, () => false)).toBeNull();
  });

  it('puts narrowband over broadband when the moon is full', () => {
    const full = nightsFrom('2027-03-21', 2);
    const moonlit = rankByWorth(setting, { objects, nights: full, by: 1, fieldDeg: 1.2, sampled: 100 })!;
    expect(moonlit[0].hours[1]).toBeGreaterThan(2 * moonlit[0].hours[0]);
  });

  it('has no hours for what never rises and none of the best for what is a dot', () => {
    const north: WorthObject = { raDeg: 100, decDeg: 80, sizeArcmin: 30 };
    const [only] = rankByWorth(setting, { objects: [north], nights, by: 0, fieldDeg: 1.2, sampled: 1 })!;
    expect(only).toMatchObject({ hours: [0, 0], best: null, worth: 0 });
    expect([sizeFit(0.01), sizeFit(0.5), sizeFit(3), sizeFit(null)]).toEqual([0.15, 1, 0.4, 0.3]);
  });
});

describe('nights as arcs', () => {
  it('know what never rises and what never sets', () => {
    expect(halfArcDeg(-30, 80, 0)).toBe(0);
    expect(halfArcDeg(-30, -80, 0)).toBe(180);
    expect(halfArcDeg(0, 0, 0)).toBeCloseTo(90, 9);
  });

  it('have darkness within 2 minutes, the moon within half an hour, and hours within 6 minutes on the mean, all year', () => {
    const apart: number[] = [];
    for (let i = 0; i < 365; i += 14) {
      const night = observingNight(nightDatePlus('2026-12-01', i), timeZone);
      const arcs = nightArcs(site, night, -18);
      const [dark] = darkIntervals(site, night, -18);
      expect(Math.abs(arcs.dark!.startUtcMs - dark.startUtcMs)).toBeLessThan(2 * MINUTE_MS);
      expect(Math.abs(arcs.dark!.endUtcMs - dark.endUtcMs)).toBeLessThan(2 * MINUTE_MS);
      expect(Math.abs(hoursOf(arcs.moonUp) - hoursOf(upIntervals(site, 'moon', dark)))).toBeLessThan(0.5);
      for (const position of [objects[i], objects[i + 1]])
        apart.push(
          Math.abs(
            darkHoursAbove(arcs, position.raDeg, halfArcDeg(site.latitudeDeg, position.decDeg, 30), false) -
              hoursAbove(position, dark, 30),
          ),
        );
    }
    expect(apart.reduce((sum, hours) => sum + hours) / apart.length).toBeLessThan(0.1);
    expect(apart.reduce((a, b) => Math.max(a, b))).toBeLessThan(0.4);
  });

  it('end where the sun does not sink so low', () => {
    const summer = observingNight('2027-06-21', 'Europe/Oslo');
    const arcs = nightArcs({ latitudeDeg: 60, longitudeDeg: 10, elevationM: 0 }, summer, -18);
    expect(arcs.dark).toBeNull();
    expect(darkHoursAbove(arcs, 100, 90, false)).toBe(0);
  });
});

function hoursAbove(position: WorthObject, dark: { startUtcMs: number; endUtcMs: number }, floorDeg: number): number {
  const frame = frameOfDate(dark.startUtcMs);
  let minutes = 0;
  for (let utcMs = dark.startUtcMs; utcMs < dark.endUtcMs; utcMs += MINUTE_MS)
    if (directionOf(site, position, utcMs, frame).altitudeDeg >= floorDeg) minutes += 1;
  return minutes / 60;
}

describe('the year at a glance', () => {
  it('has the hours of each night, none where the target is up by day', () => {
    const nights = nightsFrom('2027-01-01', 365);
    const orion = { raDeg: 84, decDeg: -5 };
    const year = yearOfHours(setting, orion, nights);
    expect(year.length).toBe(365);
    expect(year[5].hours[1]).toBeGreaterThan(4);
    expect(year[160].hours).toEqual([0, 0]);
    for (const { hours, darkHours } of year) expect(Math.max(...hours)).toBeLessThanOrEqual(darkHours + 1e-9);
    // Near the estimate: narrowband under all limits, a dark night and a moonlit one.
    for (const n of [8, 24]) {
      const exact = usableStretches(nightSky(setting, nights[n]), orion).map(hoursOf);
      expect(Math.abs(exact[1] - year[n].hours[1])).toBeLessThan(0.3);
    }
  });
});
