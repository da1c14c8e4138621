// What stands around a place: stars from the shipped table, objects from the catalogue.
import { readFileSync } from 'node:fs';
import type { ResponseOf, catalogueAround } from '@meridiem/contract';
import { angleBetweenDeg, unitVector } from '@meridiem/core';
import type { StarTable } from '../../sky/star-table.ts';
import { starsWithin } from '../../sky/star-table.ts';
import type { CatalogueObject } from './service.ts';

/** Most that one drawing can use. */
const MOST_STARS = 2000;
const MOST_OBJECTS = 150;

/** The brightest stars within a radius of a place, brightest first. */
export function starsAround(
  table: StarTable,
  centre: { raDeg: number; decDeg: number },
  radiusDeg: number,
): [raDeg: number, decDeg: number, mag: number][] {
  const found = [...starsWithin(table, centre, radiusDeg)].map(({ raDeg, decDeg, mag }): [number, number, number] => [
    raDeg,
    decDeg,
    mag,
  ]);
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
