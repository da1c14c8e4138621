// Panels of a mosaic: on one plane, each with its own angle, or one camera angle, moved together until no gap is left.
import type { Vector3 } from '../sky/frame-of-date.ts';
import { unitVector } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';
import { toDeg, toRad, wrap360 } from '../units.ts';
import { angleApartDeg } from './angle.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

/** one_plane: a motor turns the camera to each panel's own angle; one_angle: the camera stands at one angle for all. */
export type MosaicLayout = 'one_plane' | 'one_angle';

export interface MosaicWish {
  readonly centre: SkyPosition;
  /** Position angle of the mosaic's upward side at its centre. */
  readonly positionAngleDeg: number;
  readonly rows: number;
  readonly cols: number;
  /** Share of a panel's side that neighbours have in common. */
  readonly overlapShare: number;
  /** Sides of one panel as lengths on its tangent plane: see `planeSides`. */
  readonly widthDeg: number;
  readonly heightDeg: number;
  readonly layout: MosaicLayout;
}

export interface MosaicPanel {
  /** Row 0 is the mosaic's upper one, column 0 its right one: north-west where the angle is 0. */
  readonly row: number;
  readonly col: number;
  readonly centre: SkyPosition;
  /** Angle of the panel's upward side at its own centre. */
  readonly positionAngleDeg: number;
}

export interface Mosaic {
  readonly panels: readonly MosaicPanel[];
  /** As wished, or more where one camera angle would leave gaps. */
  readonly overlapShare: number;
}

/** With a larger overlap than this the plane is too wide for one camera angle. */
export const LARGEST_OVERLAP = 0.6;
/** Neighbours whose upward sides differ by more than this on one plane can't be framed under one angle. */
const MOST_TURN_DEG = 25;
/** A panel further than this from the centre is stretched too much to be framed on one plane. */
export const WIDEST_PLANE_DEG = 40;

/** @returns null where the mosaic is too wide for its plane, or no overlap up to 60 % closes the gaps of one camera angle */
export function mosaicOf(wish: MosaicWish): Mosaic | null {
  if (planeRadiusDeg(wish) > toDeg(Math.tan(toRad(WIDEST_PLANE_DEG)))) return null;
  if (wish.layout === 'one_plane')
    return { panels: panelsWith(wish, wish.overlapShare), overlapShare: wish.overlapShare };
  if (turnsTooMuch(wish)) return null;
  const closed = (overlapShare: number): boolean => !hasGap(panelsWith(wish, overlapShare), wish);
  if (closed(wish.overlapShare))
    return { panels: panelsWith(wish, wish.overlapShare), overlapShare: wish.overlapShare };
  if (!closed(LARGEST_OVERLAP)) return null;
  let [open, shut] = [wish.overlapShare, LARGEST_OVERLAP];
  while (shut - open > 0.001) {
    const middle = (open + shut) / 2;
    if (closed(middle)) shut = middle;
    else open = middle;
  }
  return { panels: panelsWith(wish, shut), overlapShare: shut };
}

/** How far a panel's own angle is from the camera's, for the panel that is furthest off, degrees [0, 90]. */
export const largestTurnDeg = (panels: readonly MosaicPanel[], cameraDeg: number): number =>
  panels.reduce((most, { positionAngleDeg }) => Math.max(most, angleApartDeg(positionAngleDeg, cameraDeg)), 0);

/** Around a pole neighbours under one angle stand across one another: closing such gaps would be no mosaic any more. */
function turnsTooMuch(wish: MosaicWish): boolean {
  const panels = panelsWith({ ...wish, layout: 'one_plane' }, wish.overlapShare);
  return panels.some((panel) =>
    panels.some(
      (other) =>
        Math.abs(other.row - panel.row) + Math.abs(other.col - panel.col) === 1 &&
        Math.abs(wrap360(other.positionAngleDeg - panel.positionAngleDeg + 180) - 180) > MOST_TURN_DEG,
    ),
  );
}

function planeRadiusDeg({ rows, cols, widthDeg, heightDeg, overlapShare }: MosaicWish): number {
  const reach = (count: number, side: number): number => ((count - 1) * side * (1 - overlapShare) + side) / 2;
  return Math.hypot(reach(cols, widthDeg), reach(rows, heightDeg));
}

function panelsWith(wish: MosaicWish, overlapShare: number): MosaicPanel[] {
  const { centre, positionAngleDeg, rows, cols, widthDeg, heightDeg, layout } = wish;
  const [sine, cosine] = [Math.sin(toRad(positionAngleDeg)), Math.cos(toRad(positionAngleDeg))];
  return Array.from({ length: rows * cols }, (_, i) => {
    const [row, col] = [Math.floor(i / cols), i % cols];
    const right = ((cols - 1) / 2 - col) * widthDeg * (1 - overlapShare);
    const up = ((rows - 1) / 2 - row) * heightDeg * (1 - overlapShare);
    const plane = { xDeg: -cosine * right + sine * up, yDeg: sine * right + cosine * up };
    return {
      row,
      col,
      centre: fromTangentPlane(centre, plane),
      positionAngleDeg:
        layout === 'one_angle' ? positionAngleDeg : angleOnPlaneDeg(centre, plane, { xDeg: sine, yDeg: cosine }),
    };
  });
}

/** Position angle, at a place of the plane, of a direction of the plane.
 * The direction is a vector of space; seen from the place its part along the line of sight drops out. */
function angleOnPlaneDeg(
  tangent: SkyPosition,
  at: { readonly xDeg: number; readonly yDeg: number },
  direction: { readonly xDeg: number; readonly yDeg: number },
): number {
  const basis = basisOf(tangent);
  const space = ({ xDeg, yDeg }: { xDeg: number; yDeg: number }): Vector3 =>
    add(scaled(basis.east, toRad(xDeg)), scaled(basis.north, toRad(yDeg)));
  const here = basisOf(fromTangentPlane(tangent, at));
  const moved = space(direction);
  return wrap360(toDeg(Math.atan2(dot(moved, here.east), dot(moved, here.north))));
}

const add = (a: Vector3, b: Vector3): Vector3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const scaled = (a: Vector3, by: number): Vector3 => [a[0] * by, a[1] * by, a[2] * by];
const dot = (a: Vector3, b: Vector3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Unit vectors towards east and north at a place. */
function basisOf({ raDeg, decDeg }: SkyPosition): { east: Vector3; north: Vector3 } {
  const [ra, dec] = [toRad(raDeg), toRad(decDeg)];
  return {
    east: [-Math.sin(ra), Math.cos(ra), 0],
    north: [-Math.sin(dec) * Math.cos(ra), -Math.sin(dec) * Math.sin(ra), Math.cos(dec)],
  };
}

/** Points along the line where two neighbours meet; each must lie in some panel. */
const ALONG = 33;

/** Whether any line where neighbours meet is not covered by panels from end to end. */
function hasGap(panels: readonly MosaicPanel[], wish: MosaicWish): boolean {
  const at = (row: number, col: number): MosaicPanel | undefined =>
    panels.find((panel) => panel.row === row && panel.col === col);
  return panels.some((panel) => {
    const [left, below] = [at(panel.row, panel.col + 1), at(panel.row + 1, panel.col)];
    const near = panels.filter(({ row, col }) => Math.abs(row - panel.row) <= 1 && Math.abs(col - panel.col) <= 1);
    return (
      (left !== undefined && isOpen(meeting(panel, left, wish.heightDeg), near, wish)) ||
      (below !== undefined && isOpen(meeting(panel, below, wish.widthDeg), near, wish))
    );
  });
}

/** The line halfway between two neighbours, across the way from one to the other, as long as the side they share. */
function meeting(a: MosaicPanel, b: MosaicPanel, sideDeg: number): SkyPosition[] {
  const way = toTangentPlane(a.centre, b.centre)!;
  const middle = fromTangentPlane(a.centre, { xDeg: way.xDeg / 2, yDeg: way.yDeg / 2 });
  const back = toTangentPlane(middle, a.centre)!;
  const length = Math.hypot(back.xDeg, back.yDeg);
  return Array.from({ length: ALONG }, (_, i) => {
    const along = ((i / (ALONG - 1) - 0.5) * sideDeg * SHARED_SIDE) / length;
    return fromTangentPlane(middle, { xDeg: along * back.yDeg, yDeg: -along * back.xDeg });
  });
}

/** At its very ends the line leaves the outer panels, whose corners stand out differently: that much of it must be closed. */
const SHARED_SIDE = 0.94;

function isOpen(points: readonly SkyPosition[], panels: readonly MosaicPanel[], wish: MosaicWish): boolean {
  const tests = panels.map((panel) => panelTest(panel, wish));
  return points.some((point) => {
    const direction = unitVector(point);
    return !tests.some((isInside) => isInside(direction));
  });
}

/** Whether directions lie in a panel; what many places are asked of is worked out once.
 * @returns a test of unit vectors: see `unitVector` */
export function panelTest(
  { centre, positionAngleDeg }: Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>,
  { widthDeg, heightDeg }: Pick<MosaicWish, 'widthDeg' | 'heightDeg'>,
): (direction: Vector3) => boolean {
  const forward = unitVector(centre);
  const { east, north } = basisOf(centre);
  const [sine, cosine] = [Math.sin(toRad(positionAngleDeg)), Math.cos(toRad(positionAngleDeg))];
  const right = add(scaled(east, -cosine), scaled(north, sine));
  const up = add(scaled(east, sine), scaled(north, cosine));
  const [halfWidth, halfHeight] = [toRad(widthDeg / 2) + ROUNDING, toRad(heightDeg / 2) + ROUNDING];
  return (direction) => {
    const depth = dot(direction, forward);
    return (
      depth > 0 &&
      Math.abs(dot(direction, right)) <= halfWidth * depth &&
      Math.abs(dot(direction, up)) <= halfHeight * depth
    );
  };
}

/** Places on the very edge are inside. */
const ROUNDING = 1e-11;

/** Whether one place lies in a panel. */
export const isInsidePanel = (
  panel: Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>,
  place: SkyPosition,
  sides: Pick<MosaicWish, 'widthDeg' | 'heightDeg'>,
): boolean => panelTest(panel, sides)(unitVector(place));
