// How much of one field another field covers: convex polygons on the tangent plane of the first.
import type { SkyPosition } from '../sky/site.ts';
import { toRad } from '../units.ts';
import type { PlanePoint } from './tangent-plane.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

/** A sensor's rectangle on the sky. Sides are the full field; the position angle is that of its upward side. */
export interface SkyField {
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
  readonly widthDeg: number;
  readonly heightDeg: number;
}

/** Share of `wanted` that `taken` covers, [0, 1]; 0 where they lie on opposite sides of the sky. */
export function coverageOf(wanted: SkyField, taken: SkyField): number {
  const frame = cornersOf(wanted).map((corner) => toTangentPlane(wanted.centre, corner));
  const other = cornersOf(taken).map((corner) => toTangentPlane(wanted.centre, corner));
  if (frame.includes(null) || other.includes(null)) return 0;
  const [wantedPolygon, takenPolygon] = [frame, other] as PlanePoint[][];
  const shared = clipConvex(takenPolygon, counterClockwise(wantedPolygon));
  return Math.min(1, Math.abs(signedArea(shared)) / Math.abs(signedArea(wantedPolygon)));
}

/** Corners of a field in order around it: upper left, upper right, lower right, lower left as the camera sees them. */
export function cornersOf({ centre, positionAngleDeg, widthDeg, heightDeg }: SkyField): SkyPosition[] {
  const [sine, cosine] = [Math.sin(toRad(positionAngleDeg)), Math.cos(toRad(positionAngleDeg))];
  const [halfWidth, halfHeight] = [planeSide(widthDeg) / 2, planeSide(heightDeg) / 2];
  const corners = [
    [1, 1],
    [-1, 1],
    [-1, -1],
    [1, -1],
  ];
  return corners.map(([east, up]) => {
    const [x, y] = [east * halfWidth, up * halfHeight];
    return fromTangentPlane(centre, { xDeg: x * cosine + y * sine, yDeg: y * cosine - x * sine });
  });
}

/** The full angle a side spans as a length on the tangent plane. */
const planeSide = (sideDeg: number): number => (360 / Math.PI) * Math.tan(toRad(sideDeg) / 2);

/** Sutherland & Hodgman 1974: a polygon cut by each side of a convex, counter-clockwise one. */
function clipConvex(polygon: readonly PlanePoint[], by: readonly PlanePoint[]): PlanePoint[] {
  let shape = [...polygon];
  by.forEach((from, i) => {
    const to = by[(i + 1) % by.length];
    const side = (p: PlanePoint): number =>
      (to.xDeg - from.xDeg) * (p.yDeg - from.yDeg) - (to.yDeg - from.yDeg) * (p.xDeg - from.xDeg);
    shape = shape.flatMap((point, j) => {
      const before = shape[(j + shape.length - 1) % shape.length];
      const [here, there] = [side(point), side(before)];
      const share = there / (there - here);
      const crossing = {
        xDeg: before.xDeg + share * (point.xDeg - before.xDeg),
        yDeg: before.yDeg + share * (point.yDeg - before.yDeg),
      };
      if (here >= 0) return there < 0 ? [crossing, point] : [point];
      return there >= 0 ? [crossing] : [];
    });
  });
  return shape;
}

const counterClockwise = (polygon: readonly PlanePoint[]): readonly PlanePoint[] =>
  signedArea(polygon) < 0 ? [...polygon].reverse() : polygon;

const signedArea = (polygon: readonly PlanePoint[]): number =>
  polygon.reduce((sum, point, i) => {
    const next = polygon[(i + 1) % polygon.length];
    return sum + (point.xDeg * next.yDeg - next.xDeg * point.yDeg) / 2;
  }, 0);
