// Pictures of the sky by tiles: strips of declination cut into pieces, finer from level to level, each a square on its own tangent plane.
import { toRad, wrap180, wrap360 } from '../units.ts';
import type { SkyPosition } from './site.ts';

export interface SurveyTile {
  readonly level: number;
  readonly strip: number;
  readonly piece: number;
}

/** A square picture on the tangent plane of its centre, north up and east left. */
export interface PictureFrame {
  readonly centre: SkyPosition;
  /** Side on the tangent plane, degrees × (180/π per radius). */
  readonly widthDeg: number;
}

export const FINEST_LEVEL = 6;
const COARSEST_SIDE_DEG = 16;
/** Pictures reach past their piece so that neighbours overlap everywhere. */
const REACH = 1.3;

const sideDegOf = (level: number): number => COARSEST_SIDE_DEG / 2 ** level;
const stripsOf = (level: number): number => Math.ceil(180 / sideDegOf(level));

/** Pieces of a strip, none wider than the strip is high where it is widest. */
function piecesOf(level: number, strip: number): number {
  const sideDeg = sideDegOf(level);
  const [south, north] = [-90 + strip * sideDeg, -90 + (strip + 1) * sideDeg];
  const nearestEquatorDeg = south <= 0 && north >= 0 ? 0 : Math.min(Math.abs(south), Math.abs(north));
  return Math.max(1, Math.ceil((360 * Math.cos(toRad(nearestEquatorDeg))) / sideDeg));
}

/** Whether there is such a tile. */
export const isSurveyTile = ({ level, strip, piece }: SurveyTile): boolean =>
  Number.isInteger(level) && level >= 0 && level <= FINEST_LEVEL &&
  Number.isInteger(strip) && strip >= 0 && strip < stripsOf(level) &&
  Number.isInteger(piece) && piece >= 0 && piece < piecesOf(level, strip); // prettier-ignore

export function frameOfTile({ level, strip, piece }: SurveyTile): PictureFrame {
  const sideDeg = sideDegOf(level);
  const centre = {
    raDeg: wrap360(((piece + 0.5) * 360) / piecesOf(level, strip)),
    decDeg: Math.min(90, -90 + (strip + 0.5) * sideDeg),
  };
  return { centre, widthDeg: sideDeg * REACH };
}

/** The coarsest level whose pictures show so many pixels a degree. */
export function levelFor(pxPerDeg: number, picturePx: number): number {
  let level = 0;
  while (level < FINEST_LEVEL && picturePx / (sideDegOf(level) * REACH) < pxPerDeg) level += 1;
  return level;
}

/** Tiles that a circle touches. */
export function surveyTiles({ raDeg, decDeg }: SkyPosition, radiusDeg: number, level: number): SurveyTile[] {
  const sideDeg = sideDegOf(level);
  const first = Math.max(0, Math.floor((decDeg - radiusDeg + 90) / sideDeg));
  const last = Math.min(stripsOf(level) - 1, Math.floor((decDeg + radiusDeg + 90) / sideDeg));
  const tiles: SurveyTile[] = [];
  for (let strip = first; strip <= last; strip++) {
    const pieces = piecesOf(level, strip);
    const widest = Math.min(89.9, Math.max(Math.abs(decDeg) + radiusDeg, 0));
    const halfRaDeg = Math.abs(decDeg) + radiusDeg >= 90 ? 180 : Math.min(180, radiusDeg / Math.cos(toRad(widest)));
    for (let piece = 0; piece < pieces; piece++) {
      const apart = Math.abs(wrap180(((piece + 0.5) * 360) / pieces - raDeg));
      if (apart <= halfRaDeg + 180 / pieces) tiles.push({ level, strip, piece });
    }
  }
  return tiles;
}

/** The faintest star that a picture of some width shows: fewer in wide ones, so that each takes about as long. */
export const faintestShown = (widthDeg: number): number => Math.min(16, Math.max(9.5, 14 - 1.6 * Math.log2(widthDeg)));
