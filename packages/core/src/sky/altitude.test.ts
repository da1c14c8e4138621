import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { altitudeDeg, directionOf, positionAt } from './altitude.ts';

const ANGLE_TOLERANCE_DEG = 1e-9;
const AT = Date.parse('2029-06-01T12:00:00Z');

// Reference: by definition the pole stands as high as the observer's latitude, at any hour angle.
it.each([
  [52.1, 0],
  [0, 90],
  [-33.9, 250],
])('puts the north pole at latitude %d° for hour angle %d°', (latitudeDeg, hourAngleDeg) => {
  const actualDeg = altitudeDeg({ latitudeDeg, declinationDeg: 90, hourAngleDeg });
  expect(Math.abs(actualDeg - latitudeDeg)).toBeLessThan(ANGLE_TOLERANCE_DEG);
});

describe('direction of a target', () => {
  it('looks north for the north pole from the north, and below the horizon from the south', () => {
    const pole = { raDeg: 0, decDeg: 89.9 };
    const north = directionOf({ latitudeDeg: 50, longitudeDeg: 10, elevationM: 0 }, pole, AT);
    const south = directionOf({ latitudeDeg: -50, longitudeDeg: 10, elevationM: 0 }, pole, AT);
    expect(Math.abs(north.altitudeDeg - 50)).toBeLessThan(0.5);
    expect(Math.min(north.azimuthDeg, 360 - north.azimuthDeg)).toBeLessThan(0.5);
    expect(south.altitudeDeg).toBeLessThan(-49);
  });
});

describe('a place seen in a direction', () => {
  it('is seen there', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -70, max: 70, noNaN: true }),
        fc.double({ min: 5, max: 85, noNaN: true }),
        fc.double({ min: 0, max: 359, noNaN: true }),
        (latitudeDeg, altitude, azimuthDeg) => {
          const site = { latitudeDeg, longitudeDeg: 20, elevationM: 0 };
          const seen = directionOf(site, positionAt(site, { altitudeDeg: altitude, azimuthDeg }, AT), AT);
          // Aberration and nutation, which a telescope pointed this way does not mind.
          expect(Math.abs(seen.altitudeDeg - altitude)).toBeLessThan(0.02);
          const turnDeg = ((seen.azimuthDeg - azimuthDeg + 540) % 360) - 180;
          expect(Math.abs(turnDeg) * Math.cos((altitude * Math.PI) / 180)).toBeLessThan(0.02);
        },
      ),
    ));
});
