// The shipped table of stars, complete to magnitude 9, and what stands around a place in it.
import { readFileSync } from 'node:fs';
import type { SkyPosition, SkyStar, StarCatalogue } from '@meridiem/core';
import { angleBetweenDeg, FAINT_FROM_MAG, faintStarsAround, unitVector } from '@meridiem/core';
import type { DeepStars } from './deep-stars.ts';
import { deepStarsAround } from './deep-stars.ts';

export interface StarTable {
  readonly raDeg: Float32Array;
  /** Ascending. */
  readonly decDeg: Float32Array;
  /** Tenths of magnitudes above −2. */
  readonly tenths: Uint8Array;
}

export function loadStars(): StarTable {
  const bytes = readFileSync(new URL('../../catalogue/stars.bin', import.meta.url));
  const count = bytes.length / 9;
  const floats = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + 8 * count));
  return {
    raDeg: floats.subarray(0, count),
    decDeg: floats.subarray(count),
    tenths: new Uint8Array(bytes.subarray(8 * count)),
  };
}

/** In the table's own order. */
export function* starsWithin(
  { raDeg, decDeg, tenths }: StarTable,
  centre: SkyPosition,
  radiusDeg: number,
): Generator<SkyStar> {
  const middle = unitVector(centre);
  for (
    let i = firstAt(decDeg, centre.decDeg - radiusDeg);
    i < decDeg.length && decDeg[i] <= centre.decDeg + radiusDeg;
    i++
  ) {
    const star = { raDeg: raDeg[i], decDeg: decDeg[i], mag: tenths[i] / 10 - 2 };
    if (angleBetweenDeg(middle, unitVector(star)) <= radiusDeg) yield star;
  }
}

function firstAt(ascending: Float32Array, limit: number): number {
  let [low, high] = [0, ascending.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle] < limit) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What pictures are solved by: those of simulated skies show the rendered faint stars, those of real ones what the owner's list holds.
 * @param deep null: none was loaded */
export const solvingCatalogue =
  (table: StarTable, deep: DeepStars | null, isSimulated: boolean): StarCatalogue =>
  (centre, radiusDeg, faintestMag) => {
    const bright = [...starsWithin(table, centre, radiusDeg)].filter(({ mag }) => mag <= faintestMag);
    if (faintestMag <= FAINT_FROM_MAG) return bright;
    if (isSimulated) return [...bright, ...faintStarsAround(centre, radiusDeg, faintestMag)];
    return deep ? [...bright, ...deepStarsAround(deep, centre, radiusDeg, faintestMag)] : bright;
  };
