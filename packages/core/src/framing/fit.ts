// Suggest a layout: the camera angle and the fewest panels that hold one or several subjects with a margin around them.
import { unitVector } from '../sky/frame-of-date.ts';
import { middleOf } from '../sky/middle.ts';
import type { SkyPosition } from '../sky/site.ts';
import { toDeg, toRad, wrap360 } from '../units.ts';
import { mosaicOf, panelTest } from './mosaic.ts';
import type { MosaicLayout, MosaicPanel } from './mosaic.ts';
import type { PlanePoint } from './tangent-plane.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

/** What should be inside: a disc around a place, or an outline drawn on the sky. */
export type Subject =
  { readonly centre: SkyPosition; readonly radiusDeg: number } | { readonly outline: readonly SkyPosition[] };

export interface FitWish {
  readonly subjects: readonly Subject[];
  /** Sides of one panel on its tangent plane: see `planeSides`. */
  readonly widthDeg: number;
  readonly heightDeg: number;
  readonly overlapShare: number;
  /** Free room between the subjects and the edge of everything framed, as a share of a panel's shorter side. */
  readonly marginShare: number;
  readonly layout: MosaicLayout;
  /** The only angle there is, for a camera that nobody turns; any angle where left out. */
  readonly fixedAngleDeg?: number;
  /** More rows or columns than this are no answer. */
  readonly mostSide: number;
}

export interface Fit {
  readonly rows: number;
  readonly cols: number;
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
  /** Free room at the tightest edge, as a share of a panel's shorter side: as wished or more. */
  readonly marginShare: number;
}

/** Angles are tried this far apart, then refined around the best. */
const STEP_DEG = 0.25;
const REFINED_DEG = 0.005;
/** Rounds in which the plane is laid anew at the centre that was found. */
const ROUNDS = 3;

/** The fewest panels; among equals the largest margin.
 * @returns null where even `mostSide` rows and columns don't hold the subjects, or they lie too far apart for one plane */
export function fitPanels(wish: FitWish): Fit | null {
  let tangent = middleOfAll(wish.subjects);
  let fit: Fit | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const shape = tangent && shapeOn(tangent, wish.subjects);
    if (!tangent || !shape) return null;
    fit = fitOnPlane(tangent, shape, wish);
    if (!fit) return null;
    tangent = fit.centre;
  }
  return fit;
}

/** Rims of discs and corners of outlines on a plane. */
type Shape = readonly PlanePoint[];

/** Points on a disc's rim, set out so that the polygon's sides touch the disc. */
const RIM = 64;

function shapeOn(tangent: SkyPosition, subjects: readonly Subject[]): Shape | null {
  const places = subjects.flatMap((subject) => ('outline' in subject ? subject.outline : rimOf(subject)));
  const shape = places.map((place) => toTangentPlane(tangent, place));
  return shape.length === 0 || shape.includes(null) ? null : (shape as Shape);
}

function rimOf({ centre, radiusDeg }: { centre: SkyPosition; radiusDeg: number }): SkyPosition[] {
  if (radiusDeg === 0) return [centre];
  const reach = toDeg(Math.tan(toRad(radiusDeg))) / Math.cos(Math.PI / RIM);
  return Array.from({ length: RIM }, (_, i) => {
    const around = (2 * Math.PI * i) / RIM;
    return fromTangentPlane(centre, { xDeg: reach * Math.cos(around), yDeg: reach * Math.sin(around) });
  });
}

/** The middle of everything that should be inside. */
const middleOfAll = (subjects: readonly Subject[]): SkyPosition | null =>
  middleOf(subjects.flatMap((subject) => ('outline' in subject ? subject.outline : [subject.centre])));

interface Extent {
  readonly right: number;
  readonly up: number;
  readonly width: number;
  readonly height: number;
}

/** The rectangle around a shape for a camera turned by an angle: middle and sides along the camera's right and up. */
function extentAt(shape: Shape, angleDeg: number): Extent {
  const [sine, cosine] = [Math.sin(toRad(angleDeg)), Math.cos(toRad(angleDeg))];
  let [left, right, down, up] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { xDeg, yDeg } of shape) {
    const r = -cosine * xDeg + sine * yDeg;
    const u = sine * xDeg + cosine * yDeg;
    if (r < left) left = r;
    if (r > right) right = r;
    if (u < down) down = u;
    if (u > up) up = u;
  }
  return { right: (left + right) / 2, up: (down + up) / 2, width: right - left, height: up - down };
}

interface Candidate {
  readonly angleDeg: number;
  readonly rows: number;
  readonly cols: number;
  readonly marginDeg: number;
}

function fitOnPlane(tangent: SkyPosition, shape: Shape, wish: FitWish): Fit | null {
  const shorterDeg = Math.min(wish.widthDeg, wish.heightDeg);
  const at = (angleDeg: number): Candidate => candidateAt(shape, angleDeg, wish, wish.marginShare * shorterDeg);
  const angles =
    wish.fixedAngleDeg === undefined
      ? Array.from({ length: 180 / STEP_DEG }, (_, i) => i * STEP_DEG)
      : [wish.fixedAngleDeg];
  let best = angles.map(at).reduce((a, b) => (isBetter(b, a) ? b : a));
  if (wish.fixedAngleDeg === undefined)
    for (let step = STEP_DEG / 2; step >= REFINED_DEG; step /= 2)
      for (const angleDeg of [best.angleDeg - step, best.angleDeg + step]) {
        const nearby = at(angleDeg);
        if (isBetter(nearby, best)) best = nearby;
      }
  if (best.rows > wish.mostSide || best.cols > wish.mostSide) return null;
  const { right, up } = extentAt(shape, best.angleDeg);
  const [sine, cosine] = [Math.sin(toRad(best.angleDeg)), Math.cos(toRad(best.angleDeg))];
  return {
    rows: best.rows,
    cols: best.cols,
    centre: fromTangentPlane(tangent, { xDeg: -cosine * right + sine * up, yDeg: sine * right + cosine * up }),
    positionAngleDeg: wrap360(best.angleDeg),
    marginShare: best.marginDeg / shorterDeg,
  };
}

const isBetter = (a: Candidate, b: Candidate): boolean =>
  a.rows * a.cols < b.rows * b.cols || (a.rows * a.cols === b.rows * b.cols && a.marginDeg > b.marginDeg);

function candidateAt(shape: Shape, angleDeg: number, wish: FitWish, marginDeg: number): Candidate {
  const { width, height } = extentAt(shape, angleDeg);
  const cols = panelsFor(width + 2 * marginDeg, wish.widthDeg, wish.overlapShare);
  const rows = panelsFor(height + 2 * marginDeg, wish.heightDeg, wish.overlapShare);
  const room = Math.min(
    spanOf(cols, wish.widthDeg, wish.overlapShare) - width,
    spanOf(rows, wish.heightDeg, wish.overlapShare) - height,
  );
  return { angleDeg, rows, cols, marginDeg: room / 2 };
}

/** Length that a row of panels covers, and the panels that a length needs. */
const spanOf = (panels: number, sideDeg: number, overlapShare: number): number =>
  sideDeg * (1 + (panels - 1) * (1 - overlapShare));
const panelsFor = (lengthDeg: number, sideDeg: number, overlapShare: number): number =>
  Math.max(1, Math.ceil((lengthDeg / sideDeg - 1) / (1 - overlapShare) + 1 - 1e-9));

export interface Alternative extends Fit {
  /** Share of the subjects that is inside, [0, 1]. */
  readonly insideShare: number;
}

/** Angles for alternatives are tried this far apart. */
const ALTERNATIVE_STEP_DEG = 3;

/** What fewer panels than a fit needs would hold: for each number of rows and columns the centre and angle that lose least.
 * @param layouts rows and columns to try */
export function alternatives(
  wish: FitWish,
  layouts: readonly (readonly [rows: number, cols: number])[],
): Alternative[] {
  const tangent = middleOfAll(wish.subjects);
  const shape = tangent && shapeOn(tangent, wish.subjects);
  if (!tangent || !shape) return [];
  const samples = samplesOf(wish.subjects);
  return layouts.flatMap(([rows, cols]) => {
    const angles =
      wish.fixedAngleDeg === undefined
        ? Array.from({ length: 180 / ALTERNATIVE_STEP_DEG }, (_, i) => i * ALTERNATIVE_STEP_DEG)
        : [wish.fixedAngleDeg];
    let best: Alternative | null = null;
    for (const angleDeg of angles) {
      const tried = alternativeAt(tangent, shape, samples, wish, { rows, cols, angleDeg });
      if (
        tried &&
        (!best ||
          tried.insideShare > best.insideShare + 1e-9 ||
          (tried.insideShare > best.insideShare - 1e-9 && tried.marginShare > best.marginShare))
      )
        best = tried;
    }
    return best ? [best] : [];
  });
}

function alternativeAt(
  tangent: SkyPosition,
  shape: Shape,
  samples: readonly SkyPosition[],
  wish: FitWish,
  { rows, cols, angleDeg }: { rows: number; cols: number; angleDeg: number },
): Alternative | null {
  const { right, up, width, height } = extentAt(shape, angleDeg);
  const [sine, cosine] = [Math.sin(toRad(angleDeg)), Math.cos(toRad(angleDeg))];
  const centre = fromTangentPlane(tangent, { xDeg: -cosine * right + sine * up, yDeg: sine * right + cosine * up });
  const mosaic = mosaicOf({ ...wish, centre, positionAngleDeg: wrap360(angleDeg), rows, cols });
  if (!mosaic) return null;
  const room = Math.min(
    spanOf(cols, wish.widthDeg, wish.overlapShare) - width,
    spanOf(rows, wish.heightDeg, wish.overlapShare) - height,
  );
  return {
    rows,
    cols,
    centre,
    positionAngleDeg: wrap360(angleDeg),
    marginShare: room / 2 / Math.min(wish.widthDeg, wish.heightDeg),
    insideShare: shareInside(samples, mosaic.panels, wish),
  };
}

const ACROSS = 25;

/** Places spread evenly over the subjects. */
export function samplesOf(subjects: readonly Subject[]): SkyPosition[] {
  return subjects.flatMap((subject) => {
    if (!('outline' in subject)) {
      const radius = Math.max(subject.radiusDeg, 1e-4);
      return gridOf(-radius, radius, -radius, radius)
        .filter(({ xDeg, yDeg }) => Math.hypot(xDeg, yDeg) <= radius)
        .map((point) => fromTangentPlane(subject.centre, point));
    }
    const tangent = middleOfAll([subject])!;
    const corners = subject.outline.map((place) => toTangentPlane(tangent, place)).filter((point) => point !== null);
    const [xs, ys] = [corners.map(({ xDeg }) => xDeg), corners.map(({ yDeg }) => yDeg)];
    return gridOf(Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys))
      .filter((point) => isInsideOutline(point, corners))
      .map((point) => fromTangentPlane(tangent, point));
  });
}

function gridOf(left: number, right: number, down: number, up: number): PlanePoint[] {
  return Array.from({ length: ACROSS * ACROSS }, (_, i) => ({
    xDeg: left + ((right - left) * (i % ACROSS)) / (ACROSS - 1),
    yDeg: down + ((up - down) * Math.floor(i / ACROSS)) / (ACROSS - 1),
  }));
}

/** Even and odd crossings of a ray. */
function isInsideOutline({ xDeg, yDeg }: PlanePoint, corners: readonly PlanePoint[]): boolean {
  let inside = false;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length];
    if (a.yDeg > yDeg === b.yDeg > yDeg) return;
    if (xDeg < a.xDeg + ((yDeg - a.yDeg) / (b.yDeg - a.yDeg)) * (b.xDeg - a.xDeg)) inside = !inside;
  });
  return inside;
}

/** Share of places that lie in some panel; 1 where there are none to lose. */
export function shareInside(
  places: readonly SkyPosition[],
  panels: readonly Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>[],
  sides: { readonly widthDeg: number; readonly heightDeg: number },
): number {
  if (places.length === 0) return 1;
  const tests = panels.map((panel) => panelTest(panel, sides));
  const inside = places.filter((place) => {
    const direction = unitVector(place);
    return tests.some((isInside) => isInside(direction));
  });
  return inside.length / places.length;
}
