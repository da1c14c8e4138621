// Bright stars where they do harm: inside a field, at its edge, or just outside, and the small shift that cures it.
import { unitVector } from '../sky/frame-of-date.ts';
import type { SkyStar } from '../sky/faint-stars.ts';
import { toRad } from '../units.ts';
import type { MosaicPanel } from './mosaic.ts';
import { panelTest } from './mosaic.ts';
import { toTangentPlane } from './tangent-plane.ts';

type Panel = Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>;
interface Sides {
  readonly widthDeg: number;
  readonly heightDeg: number;
}

export interface EdgeStar {
  readonly star: SkyStar;
  /** Index of the panel it troubles. */
  readonly panel: number;
  readonly place: 'inside' | 'at the edge' | 'just outside';
  /** From the nearest edge, positive inside. */
  readonly fromEdgeDeg: number;
  /** How bad, for sorting: brightness times how far it intrudes on the room it needs. */
  readonly harm: number;
  /** Shift of the frame that gives the star its room: along the camera's right and up. Null where it is well inside. */
  readonly nudge: { readonly rightDeg: number; readonly upDeg: number } | null;
}

/** Fainter stars leave no mark worth moving a frame for. */
const FAINTEST_TROUBLE_MAG = 7;
/** Stars this bright are told wherever they are in the field: their halo is in the picture. */
const HALO_MAG = 4;

/** Room a star wants to any edge, as a share of the shorter side: 2 % at magnitude 7, 12 % at magnitude 0 and brighter.
 * An estimate from practice: reflections grow with brightness, whatever the optics. */
export const roomShareOf = (mag: number): number =>
  0.02 + 0.1 * Math.min(1, Math.max(0, 1 - mag / FAINTEST_TROUBLE_MAG));

/** Stars that stand too near an edge of some panel, or are so bright that they matter anywhere in it; the worst first. */
export function edgeStars(panels: readonly Panel[], stars: readonly SkyStar[], sides: Sides): EdgeStar[] {
  const shorterDeg = Math.min(sides.widthDeg, sides.heightDeg);
  const troubles = stars
    .filter(({ mag }) => mag <= FAINTEST_TROUBLE_MAG)
    .flatMap((star) => panels.flatMap((panel, i) => troubleOf(star, panel, i, sides, shorterDeg)));
  return troubles.sort((a, b) => b.harm - a.harm);
}

function troubleOf(star: SkyStar, panel: Panel, index: number, sides: Sides, shorterDeg: number): EdgeStar[] {
  const at = alongCamera(panel, star);
  if (!at) return [];
  const roomDeg = roomShareOf(star.mag) * shorterDeg;
  const [fromSide, fromTop] = [sides.widthDeg / 2 - Math.abs(at.right), sides.heightDeg / 2 - Math.abs(at.up)];
  const outside = Math.hypot(Math.min(0, fromSide), Math.min(0, fromTop));
  const fromEdgeDeg = outside > 0 ? -outside : Math.min(fromSide, fromTop);
  const brightness = 10 ** (-0.4 * star.mag);
  const base = { star, panel: index, fromEdgeDeg };
  if (fromEdgeDeg < -roomDeg) return [];
  if (fromEdgeDeg > roomDeg)
    return star.mag <= HALO_MAG ? [{ ...base, place: 'inside', harm: brightness * 0.2, nudge: null }] : [];
  return [
    {
      ...base,
      place: fromEdgeDeg >= 0 ? 'at the edge' : 'just outside',
      harm: brightness * (1 + (roomDeg - Math.abs(fromEdgeDeg)) / roomDeg),
      nudge: nudgeOf(at, fromSide, fromTop, roomDeg),
    },
  ];
}

/** Over a star inside, from both edges of its corner; away from a star outside, along the shorter way. */
function nudgeOf(at: { right: number; up: number }, fromSide: number, fromTop: number, roomDeg: number) {
  const [towardsRight, towardsUp] = [Math.sign(at.right) || 1, Math.sign(at.up) || 1];
  if (fromSide >= 0 && fromTop >= 0)
    return {
      rightDeg: towardsRight * Math.max(0, roomDeg - fromSide),
      upDeg: towardsUp * Math.max(0, roomDeg - fromTop),
    };
  const [besideDeg, aboveDeg] = [Math.max(0, -fromSide), Math.max(0, -fromTop)];
  const sideways = Math.sqrt(roomDeg ** 2 - aboveDeg ** 2) + fromSide;
  const upward = Math.sqrt(roomDeg ** 2 - besideDeg ** 2) + fromTop;
  return sideways <= upward
    ? { rightDeg: -towardsRight * sideways, upDeg: 0 }
    : { rightDeg: 0, upDeg: -towardsUp * upward };
}

function alongCamera({ centre, positionAngleDeg }: Panel, place: SkyStar): { right: number; up: number } | null {
  const plane = toTangentPlane(centre, place);
  if (!plane) return null;
  const [sine, cosine] = [Math.sin(toRad(positionAngleDeg)), Math.cos(toRad(positionAngleDeg))];
  return { right: -cosine * plane.xDeg + sine * plane.yDeg, up: sine * plane.xDeg + cosine * plane.yDeg };
}

export interface SharedBand {
  /** Indices of two neighbours. */
  readonly panels: readonly [number, number];
  readonly stars: number;
}

/** Stars in the band that each pair of neighbours shares: what the panels are joined by.
 * @param stars those that the rig shows without saturating, catalogue and rendered ones together */
export function sharedStars(panels: readonly MosaicPanel[], stars: readonly SkyStar[], sides: Sides): SharedBand[] {
  const directions = stars.map(unitVector);
  const inside = panels.map((panel) => {
    const isInside = panelTest(panel, sides);
    return new Set(directions.filter(isInside));
  });
  return panels.flatMap((panel, i) =>
    panels.flatMap((other, j) => {
      const isNeighbour = j > i && Math.abs(other.row - panel.row) + Math.abs(other.col - panel.col) === 1;
      if (!isNeighbour) return [];
      return [{ panels: [i, j] as const, stars: [...inside[i]].filter((star) => inside[j].has(star)).length }];
    }),
  );
}
