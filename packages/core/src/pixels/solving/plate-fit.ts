// A picture's plane laid on the sky's: by a few stars first, then by all that match, on the tangent plane of the picture's middle.
import { fromTangentPlane, toTangentPlane } from '../../framing/tangent-plane.ts';
import type { SkyPosition } from '../../sky/site.ts';
import type { Flat } from './quads.ts';

/** From pixels, counted from the picture's middle, to degrees on the plane that touches the sky at `tangent`: east and north. */
export interface Plate {
  readonly tangent: SkyPosition;
  readonly east: readonly [atMiddle: number, perX: number, perY: number];
  readonly north: readonly [atMiddle: number, perX: number, perY: number];
}

/** A star of the picture, counted from its middle, and where it stands in the sky. */
export interface PlatePair {
  readonly at: Flat;
  readonly sky: SkyPosition;
}

/** Least squares in both directions: shift, turn, scale, and whatever shear the pairs ask for.
 * @returns null where they lie on one line, or beyond the plane */
export function fitPlate(pairs: readonly PlatePair[], tangent: SkyPosition): Plate | null {
  const rows: { x: number; y: number; east: number; north: number }[] = [];
  for (const { at, sky } of pairs) {
    const plane = toTangentPlane(tangent, sky);
    if (!plane) return null;
    rows.push({ x: at.x, y: at.y, east: plane.xDeg, north: plane.yDeg });
  }
  const mean = (of: (row: (typeof rows)[number]) => number): number =>
    rows.reduce((sum, row) => sum + of(row), 0) / rows.length;
  const [mx, my] = [mean(({ x }) => x), mean(({ y }) => y)];
  const [xx, xy, yy] = [
    mean(({ x }) => (x - mx) ** 2),
    mean(({ x, y }) => (x - mx) * (y - my)),
    mean(({ y }) => (y - my) ** 2),
  ];
  const by = xx * yy - xy * xy;
  if (!(by > 1e-6 * Math.max(xx, yy) ** 2)) return null;
  const along = (of: 'east' | 'north'): [number, number, number] => {
    const m = mean((row) => row[of]);
    const [px, py] = [mean((row) => (row.x - mx) * (row[of] - m)), mean((row) => (row.y - my) * (row[of] - m))];
    const [perX, perY] = [(px * yy - py * xy) / by, (py * xx - px * xy) / by];
    return [m - perX * mx - perY * my, perX, perY];
  };
  return { tangent, east: along('east'), north: along('north') };
}

/** The same plate on the plane that touches the sky at the picture's own middle, as near as a plane can be. */
export function atMiddle(plate: Plate): SkyPosition {
  return fromTangentPlane(plate.tangent, { xDeg: plate.east[0], yDeg: plate.north[0] });
}

/** Where a place of the picture, counted from its middle, looks. */
export const plateToSky = ({ tangent, east, north }: Plate, { x, y }: Flat): SkyPosition =>
  fromTangentPlane(tangent, {
    xDeg: east[0] + east[1] * x + east[2] * y,
    yDeg: north[0] + north[1] * x + north[2] * y,
  });

/** The place of a position in the picture, counted from its middle; null beyond the plane. */
export function skyToPlate({ tangent, east, north }: Plate, sky: SkyPosition): Flat | null {
  const plane = toTangentPlane(tangent, sky);
  if (!plane) return null;
  const [e, n] = [plane.xDeg - east[0], plane.yDeg - north[0]];
  const by = east[1] * north[2] - east[2] * north[1];
  return { x: (e * north[2] - n * east[2]) / by, y: (n * east[1] - e * north[1]) / by };
}

/** Arcseconds a pixel: of the square that has a pixel's area. */
export const plateScaleArcsec = ({ east, north }: Plate): number =>
  3600 * Math.sqrt(Math.abs(east[1] * north[2] - east[2] * north[1]));
