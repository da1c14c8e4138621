import { describe, expect, it } from '@jest/globals';
import type { NightSky } from '@meridiem/contract';
import fc from 'fast-check';
import {
  altitudePath,
  hourMarks,
  momentAt,
  moonRibbon,
  namePlaces,
  nightShare,
  sampleAt,
  stripScale,
  xOf,
} from './geometry.ts';

const HOUR = 3_600_000;
const sky = {
  viewStartUtcMs: 10 * HOUR,
  viewEndUtcMs: 20 * HOUR,
  stepMs: HOUR,
  moonAltitudeDeg: [-5, 5, 20, 30, 20, 5, -5, -10, -10, -10, -10],
  moonBrighteningMag: [0, 1, 2, 3, 2, 1, 0, 0, 0, 0, 0],
} as unknown as NightSky;
const scale = stripScale(sky, 1000);

describe('the strip', () => {
  it('maps moments to places and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1000, noNaN: true }), (x) =>
        expect(xOf(scale, momentAt(scale, x))).toBeCloseTo(x, 6),
      ),
    );
  });
  it('is shaded continuously by the sun’s depth', () =>
    expect([5, 0, -9, -18, -40].map(nightShare)).toEqual([0, 0, 0.5, 1, 1]));
  it('marks local hours, also in zones with half hours', () =>
    expect(hourMarks(scale, 0.5 * HOUR)[0]).toBe(10.5 * HOUR));
  it('reads between samples and holds the ends', () => {
    expect(sampleAt(sky, sky.moonAltitudeDeg, 11.5 * HOUR)).toBe(12.5);
    expect(sampleAt(sky, sky.moonAltitudeDeg, 0)).toBe(-5);
  });
  it('leaves out what is below the ground', () =>
    expect(altitudePath(sky, [-1, 45, 90, -1, 30], scale, 90)).toBe('M100.0 45.0L200.0 0.0M400.0 60.0'));
  it('draws the moon only while it is up and bright', () => {
    expect(moonRibbon(sky, scale, 90, 18).match(/[ML]/g)).toHaveLength(10);
    expect(moonRibbon({ ...sky, moonBrighteningMag: sky.moonBrighteningMag.map(() => 0) }, scale, 90, 18)).toBe('');
  });
});

describe('names over curves', () => {
  it('stay where they are wanted while there is room, within the strip', () => {
    const places = namePlaces([{ name: 'NGC 55', x: 2, y: 80 }, { name: 'NGC 253', x: 700, y: 10 }], 1200, 170); // prettier-ignore
    expect(places[0].x).toBeCloseTo(6 * 2.8, 6);
    expect(places[0].y).toBe(80);
    expect(places[1]).toMatchObject({ x: 700, y: 36 });
  });

  it('never cover one another', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ name: fc.string({ minLength: 3, maxLength: 26 }), x: fc.integer({ min: 0, max: 1200 }), y: fc.integer({ min: 0, max: 60 }) }), { maxLength: 5 }), // prettier-ignore
        (names) => {
          const places = namePlaces(names, 1200, 170);
          for (const [i, a] of places.entries())
            for (const b of places.slice(i + 1))
              expect(Math.abs(a.y - b.y) >= 13 || Math.abs(a.x - b.x) >= (a.name.length + b.name.length) * 2.8).toBe(true); // prettier-ignore
        },
      ),
    ));
});
