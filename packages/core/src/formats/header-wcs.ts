// Where a frame points and how it is turned, from its world-coordinate cards. Source: Calabretta & Greisen 2002, A&A 395, 1077.
import type { SkyPosition } from '../sky/site.ts';
import { fromTangentPlane } from '../framing/tangent-plane.ts';
import { toDeg, toRad, wrap360 } from '../units.ts';
import type { FitsCard } from './fits-header.ts';
import { cardOf } from './fits-header.ts';

export interface HeaderWcs {
  /** Centre of the frame, J2000, not the reference pixel. */
  readonly centre: SkyPosition;
  /** Of the frame's upward axis (rows counted up), from north through east, [0, 360). */
  readonly positionAngleDeg: number;
  readonly scaleArcsecPerPx: number;
  /** True where east lies to the right of north: a picture seen through a mirror. */
  readonly isMirrored: boolean;
}

type Matrix = readonly [number, number, number, number];

/** @returns null where the cards don't make a whole solution */
export function wcsOf(cards: readonly FitsCard[], widthPx: number, heightPx: number): HeaderWcs | null {
  const number = (keyword: string): number | null => {
    const value = cardOf(cards, keyword)?.value;
    return typeof value === 'number' ? value : null;
  };
  const [ra, dec, x, y] = ['CRVAL1', 'CRVAL2', 'CRPIX1', 'CRPIX2'].map(number);
  const matrix = matrixOf(number);
  if (ra === null || dec === null || x === null || y === null || !matrix) return null;
  const [a, b, c, d] = matrix;
  const determinant = a * d - b * c;
  if (determinant === 0 || Math.abs(dec) > 90) return null;
  const dx = (widthPx + 1) / 2 - x;
  const dy = (heightPx + 1) / 2 - y;
  const centre = fromTangentPlane(
    { raDeg: wrap360(ra), decDeg: dec },
    { xDeg: a * dx + b * dy, yDeg: c * dx + d * dy },
  );
  return {
    centre,
    positionAngleDeg: wrap360(toDeg(Math.atan2(b, d))),
    scaleArcsecPerPx: Math.sqrt(Math.abs(determinant)) * 3600,
    isMirrored: determinant > 0,
  };
}

/** Degrees on the tangent plane per pixel: CD, or PC with CDELT, or CDELT with CROTA2. */
function matrixOf(number: (keyword: string) => number | null): Matrix | null {
  const cd = ['CD1_1', 'CD1_2', 'CD2_1', 'CD2_2'].map(number);
  if (cd.some((value) => value !== null)) return cd.map((value) => value ?? 0) as unknown as Matrix;
  const [sx, sy] = [number('CDELT1'), number('CDELT2')];
  if (sx === null || sy === null) return null;
  const pc = ['PC1_1', 'PC1_2', 'PC2_1', 'PC2_2'].map(number);
  if (pc.some((value) => value !== null)) {
    const [p11, p12, p21, p22] = [pc[0] ?? 1, pc[1] ?? 0, pc[2] ?? 0, pc[3] ?? 1];
    return [sx * p11, sx * p12, sy * p21, sy * p22];
  }
  const turn = toRad(number('CROTA2') ?? 0);
  return [sx * Math.cos(turn), -sy * Math.sin(turn), sx * Math.sin(turn), sy * Math.cos(turn)];
}
