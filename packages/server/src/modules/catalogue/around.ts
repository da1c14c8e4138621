// What stands around a place: stars from the shipped table, objects from the catalogue.
import { readFileSync } from 'node:fs';
import type { ResponseOf, catalogueAround } from '@meridiem/contract';
import { angleBetweenDeg, unitVector } from '@meridiem/core';
import type { CatalogueObject } from './service.ts';

/** Most that one drawing can use. */
const MOST_STARS = 2000;
const MOST_OBJECTS = 150;

export interface StarTable {
  readonly raDeg: Float32Array;
  /** Ascending. */
  readonly decDeg: Float32Array;
  /** Tenths of magnitudes above −2. */
  readonly tenths: Uint8Array;
}

export function loadStars(): StarTable {
  const bytes = readFileSync(new URL('../../../catalogue/stars.bin', import.meta.url));
  const count = bytes.length / 9;
  const floats = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + 8 * count));
  return {
    raDeg: floats.subarray(0, count),
    decDeg: floats.subarray(count),
    tenths: new Uint8Array(bytes.subarray(8 * count)),
  };
}

/** The brightest stars within a radius of a place, brightest first. */
export function starsAround(
  { raDeg, decDeg, tenths }: StarTable,
  centre: { raDeg: number; decDeg: number },
  radiusDeg: number,
): [raDeg: number, decDeg: number, mag: number][] {
  const middle = unitVector(centre);
  const found: [number, number, number][] = [];
  for (
    let i = firstAt(decDeg, centre.decDeg - radiusDeg);
    i < decDeg.length && decDeg[i] <= centre.decDeg + radiusDeg;
    i++
  ) {
    const place = { raDeg: raDeg[i], decDeg: decDeg[i] };
    if (angleBetweenDeg(middle, unitVector(place)) <= radiusDeg)
      found.push([place.raDeg, place.decDeg, tenths[i] / 10 - 2]);
  }
  return found.sort((a, b) => a[2] - b[2]).slice(0, MOST_STARS);
}

export type StarName = [raDeg: number, decDeg: number, name: string];

export const loadStarNames = (): StarName[] =>
  JSON.parse(readFileSync(new URL('../../../catalogue/star-names.json', import.meta.url), 'utf8')) as StarName[];

/** Wider drawings have no room for names. */
const WIDEST_NAMED_DEG = 20;

export function starNamesAround(
  names: readonly StarName[],
  centre: { raDeg: number; decDeg: number },
  radiusDeg: number,
): StarName[] {
  if (radiusDeg > WIDEST_NAMED_DEG) return [];
  const middle = unitVector(centre);
  return names.filter(
    ([raDeg, decDeg]) =>
      Math.abs(decDeg - centre.decDeg) <= radiusDeg &&
      angleBetweenDeg(middle, unitVector({ raDeg, decDeg })) <= radiusDeg,
  );
}

/** First index whose value is not below a limit, by bisection. */
function firstAt(ascending: Float32Array, limit: number): number {
  let [low, high] = [0, ascending.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle] < limit) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Objects within a radius, the largest first; those without a size after them by brightness. */
export function objectsAround(
  objects: Iterable<CatalogueObject>,
  centre: { raDeg: number; decDeg: number },
  radiusDeg: number,
): ResponseOf<typeof catalogueAround>['objects'] {
  const middle = unitVector(centre);
  return [...objects]
    .filter(
      (object) =>
        Math.abs(object.decDeg - centre.decDeg) <= radiusDeg &&
        angleBetweenDeg(middle, unitVector(object)) <= radiusDeg,
    )
    .sort((a, b) => (b.sizeArcmin ?? 0) - (a.sizeArcmin ?? 0) || (a.mag ?? 99) - (b.mag ?? 99))
    .slice(0, MOST_OBJECTS);
}
