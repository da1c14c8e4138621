// Stars fainter than the shipped catalogue: not the real ones, but as many as there are, always the same ones at the same places.
import { seededRandom } from '../random.ts';
import { toDeg, toRad, wrap180, wrap360 } from '../units.ts';
import { angleBetweenDeg, unitVector } from './frame-of-date.ts';
import type { SkyPosition } from './site.ts';

/** A star of the catalogue or a rendered one; the brightness is a visual magnitude. */
export interface SkyStar extends SkyPosition {
  readonly mag: number;
}

/** The catalogue is complete to here; rendered stars begin where it ends. */
export const FAINT_FROM_MAG = 9;
/** No sensor of ours is asked for more. */
export const FAINTEST_MAG = 17;
/** Each slice of magnitudes of a cell has a seed of its own, so that asking deeper adds stars and moves none. */
const SLICE_MAG = 0.5;
/** Cells are strips of declination cut into pieces about as wide as they are high. */
const CELL_DEG = 1;

/** Direction of the galactic north pole, J2000.0. Source: Liu, Zhu & Zhang 2011, A&A 526, A16 (the IAU 1958 pole precessed). */
const GALACTIC_POLE = unitVector({ raDeg: 192.85948, decDeg: 27.12825 });

/** Galactic latitude.
 * @returns degrees, [−90, 90] */
export const galacticLatitudeDeg = (position: SkyPosition): number =>
  90 - angleBetweenDeg(unitVector(position), GALACTIC_POLE);

/** Stars brighter than a magnitude in a square degree. A fit by eye to the classic star counts in the plane and at the poles
 * (Allen, Astrophysical Quantities, section on star counts), between them by an exponential of latitude: right within a factor of two. */
export function starsPerSquareDeg(mag: number, latitudeDeg: number): number {
  const plane = 1.2 + 0.43 * (mag - 10);
  const pole = 0.45 + 0.34 * (mag - 10);
  const towardsPlane = Math.exp(-Math.abs(latitudeDeg) / 20);
  return 10 ** (pole + (plane - pole) * towardsPlane);
}

/** Rendered stars within a radius of a place, from magnitude 9 down to `faintestMag`, cell by cell. */
export function faintStarsAround(centre: SkyPosition, radiusDeg: number, faintestMag: number): SkyStar[] {
  const middle = unitVector(centre);
  const found: SkyStar[] = [];
  for (const cell of cellsAround(centre, radiusDeg))
    for (const star of faintStarsOf(cell, faintestMag))
      if (angleBetweenDeg(middle, unitVector(star)) <= radiusDeg) found.push(star);
  return found;
}

export interface SkyCell {
  readonly strip: number;
  readonly index: number;
}

const STRIPS = 180 / CELL_DEG;

/** Pieces of a strip: as many as keep them about square. */
const piecesOf = (strip: number): number =>
  Math.max(1, Math.round((360 / CELL_DEG) * Math.cos(toRad(middleDecDeg(strip)))));

const middleDecDeg = (strip: number): number => -90 + (strip + 0.5) * CELL_DEG;

/** Every cell that a circle touches, and perhaps a few beside it. */
export function cellsAround({ raDeg, decDeg }: SkyPosition, radiusDeg: number): SkyCell[] {
  const [south, north] = [decDeg - radiusDeg, decDeg + radiusDeg];
  const firstStrip = Math.max(0, Math.floor((south + 90) / CELL_DEG));
  const lastStrip = Math.min(STRIPS - 1, Math.floor((north + 90) / CELL_DEG));
  const halfRaDeg =
    north >= 90 || south <= -90
      ? 180
      : toDeg(Math.asin(Math.min(1, Math.sin(toRad(Math.min(90, radiusDeg))) / Math.cos(toRad(decDeg)))));
  const cells: SkyCell[] = [];
  for (let strip = firstStrip; strip <= lastStrip; strip++) {
    const pieces = piecesOf(strip);
    const widthDeg = 360 / pieces;
    for (let index = 0; index < pieces; index++) {
      const apart = Math.abs(wrap180((index + 0.5) * widthDeg - raDeg));
      if (apart <= halfRaDeg + widthDeg / 2) cells.push({ strip, index });
    }
  }
  return cells;
}

/** The rendered stars of one cell, brightest slice first. */
export function faintStarsOf({ strip, index }: SkyCell, faintestMag: number): SkyStar[] {
  const pieces = piecesOf(strip);
  const widthDeg = 360 / pieces;
  const [south, north] = [strip, strip + 1].map((edge) => Math.sin(toRad(-90 + edge * CELL_DEG)));
  const squareDeg = widthDeg * toDeg(north - south);
  const latitude = galacticLatitudeDeg({ raDeg: (index + 0.5) * widthDeg, decDeg: middleDecDeg(strip) });
  const stars: SkyStar[] = [];
  const last = Math.min(FAINTEST_MAG, faintestMag);
  for (let slice = 0, mag = FAINT_FROM_MAG; mag < last; slice++, mag += SLICE_MAG) {
    const random = seededRandom(((strip * 367 + index) * 31 + slice) * 0x9e3779b1);
    const mean = squareDeg * (starsPerSquareDeg(mag + SLICE_MAG, latitude) - starsPerSquareDeg(mag, latitude));
    const count = Math.floor(mean + random());
    for (let i = 0; i < count; i++) {
      const raDeg = wrap360((index + random()) * widthDeg);
      const decDeg = toDeg(Math.asin(south + random() * (north - south)));
      const star = { raDeg, decDeg, mag: mag + SLICE_MAG * Math.sqrt(random()) };
      if (star.mag <= last) stars.push(star);
    }
  }
  return stars;
}
