// What passes over the field of a rig: satellites and aircraft, minute by minute, the same whoever asks.
import { seededRandom } from '@meridiem/core';

/** A point of light that crosses the field on a straight line. */
export interface Passing {
  /** Where it is nearest to what it aims at, from the sensor's middle, in halves of the sensor's diagonal. */
  readonly x: number;
  readonly y: number;
  readonly angleRad: number;
  readonly mag: number;
  readonly arcsecPerSec: number;
}

const MINUTE_MS = 60_000;
/** About one in three quarters of an hour. */
const SHARE_OF_MINUTES = 1 / 45;
const [BRIGHTEST_MAG, FAINTEST_MAG] = [4.5, 9];
const [SLOWEST_ARCSEC, FASTEST_ARCSEC] = [700, 2400];
const MINUTES_APART = 7919;

/** @param seed of the rig */
export function passingDuring(seed: number, startUtcMs: number, exposureSec: number): Passing[] {
  const passing: Passing[] = [];
  const first = Math.ceil(startUtcMs / MINUTE_MS);
  for (let minute = first; minute * MINUTE_MS < startUtcMs + 1000 * exposureSec; minute++) {
    const random = seededRandom(seed + minute * MINUTES_APART);
    if (random() >= SHARE_OF_MINUTES) continue;
    passing.push({
      x: 1.4 * random() - 0.7,
      y: 1.4 * random() - 0.7,
      angleRad: Math.PI * random(),
      mag: BRIGHTEST_MAG + (FAINTEST_MAG - BRIGHTEST_MAG) * random(),
      arcsecPerSec: SLOWEST_ARCSEC + (FASTEST_ARCSEC - SLOWEST_ARCSEC) * random(),
    });
  }
  return passing;
}
