// Where somebody's picture lies on the sky, from two stars recognised in it.
import type { SkyPosition } from '../sky/site.ts';
import { middleOf } from '../sky/middle.ts';
import { toDeg, wrap360 } from '../units.ts';
import type { PixelPlace, SensorOnSky } from './sensor.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

export interface StarPair {
  /** Of the star in the picture: see `PixelPlace`, y up. */
  readonly at: PixelPlace;
  readonly star: SkyPosition;
}

/** Rounds in which the plane is laid anew at the picture's centre. */
const ROUNDS = 6;

/** The gnomonic picture, neither stretched nor sheared, in which both stars are where they were seen.
 * @returns null where the stars are one and the same, in the picture or on the sky, or too far apart */
export function placedPicture(
  [first, second]: readonly [StarPair, StarPair],
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): SensorOnSky | null {
  const [du, dv] = [second.at.x - first.at.x, second.at.y - first.at.y];
  const length = du * du + dv * dv;
  let centre = middleOf([first.star, second.star]);
  let placed: SensorOnSky | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const [p, q] = [first, second].map(({ star }) => centre && toTangentPlane(centre, star));
    if (!centre || !p || !q || length === 0) return null;
    // Right is west: the turn and stretch from pixels to (−x, y) is one complex number.
    const [dx, dy] = [-(q.xDeg - p.xDeg), q.yDeg - p.yDeg];
    const [real, imaginary] = [(dx * du + dy * dv) / length, (dy * du - dx * dv) / length];
    const scaleDeg = Math.hypot(real, imaginary);
    if (scaleDeg === 0) return null;
    const [u, v] = [widthPx / 2 - first.at.x, heightPx / 2 - first.at.y];
    const middle = { xDeg: p.xDeg - (real * u - imaginary * v), yDeg: p.yDeg + (real * v + imaginary * u) };
    centre = fromTangentPlane(centre, middle);
    placed = {
      centre,
      positionAngleDeg: wrap360(toDeg(Math.atan2(imaginary, real))),
      scaleArcsecPerPx: 3600 * scaleDeg,
      widthPx,
      heightPx,
    };
  }
  return placed;
}
