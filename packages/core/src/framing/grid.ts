// The rows and columns behind a list of panels, where there are any.
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { middleOf } from '../sky/middle.ts';
import type { SkyPosition } from '../sky/site.ts';
import { toDeg, toRad, wrap360 } from '../units.ts';
import { angleApartDeg } from './angle.ts';
import type { MosaicLayout, MosaicPanel, MosaicWish } from './mosaic.ts';
import { LARGEST_OVERLAP, mosaicOf } from './mosaic.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

type Listed = Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>;

/** Panels this near to where the grid has them are the grid's. */
const SAME_ARCSEC = 5;
const SAME_ANGLE_DEG = 0.02;
const LAYOUTS: readonly MosaicLayout[] = ['one_angle', 'one_plane'];

/** The mosaic that stands exactly where the panels do.
 * @param sides of one panel on its tangent plane: see `planeSides`
 * @returns null where no rows and columns reproduce them */
export function gridOf(
  panels: readonly Listed[],
  sides: { readonly widthDeg: number; readonly heightDeg: number },
): MosaicWish | null {
  const centre = middleOf(panels.map((panel) => panel.centre));
  if (!centre) return null;
  const count = panels.length;
  for (let rows = 1; rows <= count; rows++) {
    if (count % rows !== 0) continue;
    for (const layout of LAYOUTS)
      for (const positionAngleDeg of anglesOf(panels, centre))
        for (const overlapShare of overlapsOf(panels, centre, sides)) {
          const wish: MosaicWish = {
            centre,
            positionAngleDeg,
            rows,
            cols: count / rows,
            overlapShare,
            layout,
            ...sides,
          };
          if (isSame(panels, wish)) return wish;
        }
  }
  return null;
}

/** Under one camera angle every panel has the camera's; on one plane the upward side of any panel is the mosaic's, seen on the plane. */
function anglesOf([first]: readonly Listed[], middle: SkyPosition): number[] {
  const turn = toRad(first.positionAngleDeg);
  const above = fromTangentPlane(first.centre, { xDeg: STEP_DEG * Math.sin(turn), yDeg: STEP_DEG * Math.cos(turn) });
  const [from, to] = [toTangentPlane(middle, first.centre), toTangentPlane(middle, above)];
  if (!from || !to) return [];
  return [first.positionAngleDeg, wrap360(toDeg(Math.atan2(to.xDeg - from.xDeg, to.yDeg - from.yDeg)))];
}
const STEP_DEG = 0.1;

/** Overlaps that nearest neighbours could have, along either side: on the mosaic's plane steps are equal. */
function overlapsOf(
  panels: readonly Listed[],
  middle: SkyPosition,
  { widthDeg, heightDeg }: { readonly widthDeg: number; readonly heightDeg: number },
): number[] {
  if (panels.length === 1) return [USUAL_OVERLAP];
  const [first, ...rest] = panels.map(({ centre }) => toTangentPlane(middle, centre));
  if (!first) return [];
  const steps = rest.map((place) => (place ? Math.hypot(place.xDeg - first.xDeg, place.yDeg - first.yDeg) : Infinity));
  const nearest = Math.min(...steps);
  return [widthDeg, heightDeg]
    .map((side) => Number((1 - nearest / side).toFixed(5)))
    .filter((overlap) => overlap >= 0 && overlap <= LARGEST_OVERLAP);
}
const USUAL_OVERLAP = 0.15;

function isSame(panels: readonly Listed[], wish: MosaicWish): boolean {
  const mosaic = mosaicOf(wish);
  if (!mosaic || Math.abs(mosaic.overlapShare - wish.overlapShare) > 1e-6) return false;
  return panels.every((panel) =>
    mosaic.panels.some(
      (other) =>
        3600 * angleBetweenDeg(unitVector(panel.centre), unitVector(other.centre)) < SAME_ARCSEC &&
        angleApartDeg(panel.positionAngleDeg, other.positionAngleDeg) < SAME_ANGLE_DEG,
    ),
  );
}
