import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { momentIn, numberIn, referenceRows } from '../../accuracy/csv.ts';
import { parseOrbitLine, parseOrbitLines } from '../formats/orbit-line.ts';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { directionOf } from '../sky/altitude.ts';
import { toRad, wrap180 } from '../units.ts';
import type { Orbit } from './orbits.ts';
import { longestUntrailedSec, mjdTtOf, movingPlace, movingRate, orbitWarnings, utcMsOfMjdTt } from './orbits.ts';

const rows = referenceRows(readFileSync(new URL('../../fixtures/reference/comet.csv', import.meta.url), 'utf8'));
const apartArcsec = (a: { raDeg: number; decDeg: number }, b: { raDeg: number; decDeg: number }): number =>
  3600 * angleBetweenDeg(unitVector(a), unitVector(b));

const cases = rows.map((row) => {
  const orbit: Orbit = {
    kind: 'comet',
    name: 'of the reference',
    epochMjdTt: numberIn(row, 'epoch_mjd_tt'),
    perihelionMjdTt: numberIn(row, 'tperi_mjd_tt'),
    perihelionDistanceAu: numberIn(row, 'q_au'),
    eccentricity: numberIn(row, 'e'),
    inclinationDeg: numberIn(row, 'i_deg'),
    nodeDeg: numberIn(row, 'node_deg'),
    perihelionArgumentDeg: numberIn(row, 'argperi_deg'),
  };
  return { orbit, utcMs: momentIn(row, 'utc')!, row };
});

describe('places of comets, against comet.csv', () => {
  it('are within max(1″, 2.5″ over the distance) from the Earth’s centre, with distances and motion', () => {
    expect(cases.length).toBe(30);
    for (const { orbit, utcMs, row } of cases) {
      const place = movingPlace(orbit, utcMs);
      const wanted = { raDeg: numberIn(row, 'ra_deg'), decDeg: numberIn(row, 'dec_deg') };
      expect(apartArcsec(place.position, wanted)).toBeLessThan(Math.max(1, 2.5 / numberIn(row, 'delta_au')));
      expect(place.distanceAu).toBeCloseTo(numberIn(row, 'delta_au'), 4);
      expect(place.sunDistanceAu).toBeCloseTo(numberIn(row, 'r_au'), 4);
      const rate = movingRate(orbit, utcMs);
      expect(rate.arcsecPerMin / numberIn(row, 'motion_arcsec_per_min')).toBeCloseTo(1, 2);
      const turned = wrap180(rate.positionAngleDeg - numberIn(row, 'motion_pa_deg'));
      expect(Math.abs(turned) * toRad(rate.arcsecPerMin)).toBeLessThan(0.02);
    }
  });

  it('from a site differ by the parallax that its distance and altitude ask for', () => {
    const site = { latitudeDeg: -30, longitudeDeg: -70, elevationM: 2000 };
    for (const { orbit, utcMs } of cases) {
      const [centre, seen] = [movingPlace(orbit, utcMs), movingPlace(orbit, utcMs, site)];
      const altitude = toRad(directionOf(site, seen.position, utcMs).altitudeDeg);
      // Horizontal parallax 8.794″ at 1 AU, less the Earth's flattening and the site's height.
      const expected = (8.794 / centre.distanceAu) * Math.cos(altitude);
      expect(Math.abs(apartArcsec(centre.position, seen.position) - expected)).toBeLessThan(0.04 / centre.distanceAu);
    }
  });

  it('pass perihelion at its date and distance, whatever the eccentricity', () => {
    for (const eccentricity of [0, 0.3, 0.97, 0.9999999, 1, 1.0000001, 1.4]) {
      const orbit = { ...cases[0].orbit, eccentricity };
      const atPerihelion = movingPlace(orbit, utcMsOfMjdTt(orbit.perihelionMjdTt));
      expect(atPerihelion.sunDistanceAu).toBeCloseTo(orbit.perihelionDistanceAu, 3);
    }
  });

  it('go round: one period later an ellipse stands where it stood', () => {
    const orbit = { ...cases[0].orbit, eccentricity: 0.2, perihelionDistanceAu: 2 };
    const periodDays = 365.256_898 * (2 / 0.8) ** 1.5;
    const place = (days: number) => movingPlace(orbit, utcMsOfMjdTt(orbit.perihelionMjdTt + days)).sunDistanceAu;
    for (const days of [-700, -3, 0, 200, 900]) expect(place(days + periodDays)).toBeCloseTo(place(days), 4);
  });
});

describe('an orbit’s use', () => {
  const orbit = { ...cases[0].orbit, epochMjdTt: 61_000 };
  it('warns by age, nearness, and where the age is not known', () => {
    const at = (days: number): number => utcMsOfMjdTt(61_000 + days);
    expect(orbitWarnings(orbit, at(29), 1).warnings).toEqual([]);
    expect(orbitWarnings(orbit, at(31), 1).warnings).toEqual(['OLD_ELEMENTS']);
    expect(orbitWarnings({ ...orbit, kind: 'minor_planet' }, at(99), 1).warnings).toEqual([]);
    expect(orbitWarnings({ ...orbit, kind: 'minor_planet' }, at(-101), 1).warnings).toEqual(['OLD_ELEMENTS']);
    expect(orbitWarnings(orbit, at(0), 0.19).warnings).toEqual(['NEAR_EARTH']);
    expect(orbitWarnings({ ...orbit, epochMjdTt: null }, at(0), 1).warnings).toEqual(['NO_EPOCH']);
    expect(mjdTtOf(at(0))).toBeCloseTo(61_000, 8);
  });
  it('bears an exposure as long as its trail stays within a pixel', () => {
    expect(longestUntrailedSec({ arcsecPerMin: 2, positionAngleDeg: 0 }, 1.5)).toBe(45);
  });
});

/** A line with texts at columns counted from 1. */
const lineOf = (cells: readonly (readonly [column: number, text: string])[]): string =>
  cells.reduce((line, [column, text]) => line.padEnd(column - 1).slice(0, column - 1) + text, '');
const COMET = lineOf([
  [1, '    CK26A010'],
  [15, '2027'],
  [20, '02'],
  [23, '14.2500'],
  [31, ' 1.204500'],
  [42, '0.998700'],
  [52, ' 85.1200'],
  [62, '120.3400'],
  [72, ' 47.5600'],
  [82, '20261120'],
  [103, 'C/2026 A1 (Invented)'],
]);
const MINOR = lineOf([
  [1, '99901'],
  [21, 'K26BK'],
  [27, '350.00000'],
  [38, '100.00000'],
  [49, ' 80.00000'],
  [60, ' 10.00000'],
  [71, '0.1000000'],
  [81, ' 0.20000000'],
  [93, '  2.7000000'],
  [167, '(99901) Invented'],
]);

describe('one-line orbits', () => {
  it('of a comet are read column by column', () => {
    const orbit = parseOrbitLine(COMET);
    expect(orbit).toMatchObject({ kind: 'comet', name: 'C/2026 A1 (Invented)', perihelionDistanceAu: 1.2045 });
    expect(orbit).toMatchObject({ eccentricity: 0.9987, nodeDeg: 120.34, inclinationDeg: 47.56 });
    expect(new Date(utcMsOfMjdTt(orbit.perihelionMjdTt)).toISOString()).toBe('2027-02-14T05:58:50.816Z');
    expect(new Date(utcMsOfMjdTt(orbit.epochMjdTt!)).toISOString().slice(0, 10)).toBe('2026-11-19');
  });
  it('of a minor planet give its perihelion by anomaly and axis', () => {
    const orbit = parseOrbitLine(MINOR);
    expect(orbit).toMatchObject({ kind: 'minor_planet', name: '(99901) Invented', eccentricity: 0.1 });
    expect(orbit.perihelionDistanceAu).toBeCloseTo(2.43, 9);
    // 10° short of perihelion at 0.2222° a day.
    expect(orbit.perihelionMjdTt - orbit.epochMjdTt!).toBeCloseTo(45.01, 1);
  });
  it('that can’t be read name columns and what stands there', () => {
    expect(() => parseOrbitLine('')).toThrow('The line is empty');
    expect(() => parseOrbitLine(COMET.replace('0.998700', 'nearly 1'))).toThrow(
      'Columns 42 to 49 should hold the eccentricity; "nearly 1" is there',
    );
    expect(() => parseOrbitLine('a comet')).toThrow('should hold the year of perihelion; nothing is there');
    expect(() => parseOrbitLine(COMET.replace('0.998700', '12.00000'))).toThrow("An eccentricity of 12 can't be");
    expect(() => parseOrbitLine(COMET.replace(' 1.204500', '-1.204500'))).toThrow('perihelion distance');
  });
  it('of a file come with the numbers of lines that are none', () => {
    const { orbits, problems } = parseOrbitLines(`# two\n${COMET}\n\nnonsense\n${MINOR}\n`);
    expect(orbits.map(({ orbit }) => orbit.kind)).toEqual(['comet', 'minor_planet']);
    expect(problems.map(({ lineNumber }) => lineNumber)).toEqual([4]);
  });
});
