// Where a picture points, from its stars alone: shapes of four of them are looked for among the catalogue's, what they say is
// held against all the others, and what they all agree on is fitted.
import { fromTangentPlane, toTangentPlane } from '../../framing/tangent-plane.ts';
import { angleBetweenDeg, unitVector } from '../../sky/frame-of-date.ts';
import type { SkyPosition } from '../../sky/site.ts';
import type { SkyStar } from '../../sky/faint-stars.ts';
import { toDeg, wrap360 } from '../../units.ts';
import type { Plate, PlatePair } from './plate-fit.ts';
import { atMiddle, fitPlate, plateScaleArcsec, plateToSky, skyToPlate } from './plate-fit.ts';
import type { Flat, Quad, QuadIndex } from './quads.ts';
import { neighbourGrid, quadIndex, quadsAt } from './quads.ts';

/** Stars of a picture, the brightest first; places as in `findStars`: whole numbers at the middles of pixels. */
export interface StarField {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly stars: readonly Flat[];
}

export interface SolveHint {
  /** Where the picture is thought to point: by its header, or by the mount. */
  readonly near: SkyPosition;
  /** The true place is looked for within this of it. */
  readonly radiusDeg: number;
  /** By focal length and pixel. */
  readonly scaleArcsecPerPx: number;
}

/** Stars within a radius of a place, down to a magnitude. */
export type StarCatalogue = (centre: SkyPosition, radiusDeg: number, faintestMag: number) => readonly SkyStar[];

export interface Solved {
  readonly isSolved: true;
  /** Of the picture's middle. */
  readonly centre: SkyPosition;
  /** Of the direction in which rows are counted up, east of north. */
  readonly positionAngleDeg: number;
  readonly scaleArcsecPerPx: number;
  /** Seen as in a mirror: east is to the right where north is up. */
  readonly isMirrored: boolean;
  /** Stars that agree: their places in the list that was given, and who they are. */
  readonly matches: readonly { readonly star: number; readonly sky: SkyStar }[];
  /** How far they lie from their places, on average. */
  readonly meanResidualArcsec: number;
  readonly plate: Plate;
}
export interface NotSolved {
  readonly isSolved: false;
  readonly words: string;
}

/** Mount, header and optics may be off by so much. */
export const SEARCH_RADIUS_DEG = 5;
const SCALE_TOLERANCE = 0.04;
/** Of each number of a shape's code. */
const CODE_TOLERANCE = 0.012;
/** So many of a picture's brightest stars are looked for, in turn, until a field is found. */
const LOOKED_FOR = [36, 18, 72] as const;
const FEWEST_STARS = 6;
/** More of them fit no better. */
const MOST_FITTED = 300;
/** A star this near to its place is the catalogue's, pixels: first by four stars, then by all. */
const NEAR_PX = 4;
const FITTED_PX = 2.5;
/** A field is not taken where chance would match as many stars more than once in so many pictures. */
const BY_CHANCE = 1e-9;
const FAINTEST_MAG = 17;
const BRIGHTEST_MAG = 6;
const MAG_STEP = 0.5;

/** @returns where it points, or why nobody can say; never a guess: see `BY_CHANCE` */
export function solveField(field: StarField, hint: SolveHint, catalogue: StarCatalogue): Solved | NotSolved {
  const stars = fromMiddle(field);
  if (stars.length < FEWEST_STARS)
    return { isSolved: false, words: `${stars.length} stars are too few to know a field by` };
  for (const count of LOOKED_FOR) {
    const search = searchOf(field, stars.slice(0, count), hint, catalogue);
    const known = search.sky.length / search.fields;
    if (known < FEWEST_STARS)
      return { isSolved: false, words: `${known.toFixed(1)} catalogue stars in a field like this are too few` };
    const plate = lookFor(search);
    if (plate) return solvedBy(plate, search, stars, catalogue);
    if (stars.length <= count) break;
  }
  return { isSolved: false, words: `no field like it within ${hint.radiusDeg}° of where it should be` };
}

/** Of a picture's field, degrees. */
export const fieldSides = ({ widthPx, heightPx }: StarField, scaleArcsecPerPx: number): [number, number] => [
  (widthPx * scaleArcsecPerPx) / 3600,
  (heightPx * scaleArcsecPerPx) / 3600,
];

/** Places counted from the picture's middle. */
export const fromMiddle = ({ stars, widthPx, heightPx }: StarField): Flat[] =>
  stars.map(({ x, y }) => ({ x: x + 0.5 - widthPx / 2, y: y + 0.5 - heightPx / 2 }));

/** What is looked for, and where. */
export interface Search {
  readonly hint: SolveHint;
  readonly halfDiagonalDeg: number;
  readonly areaPx: number;
  /** So many fit into what is searched. */
  readonly fields: number;
  /** Looked for, counted from the middle. */
  readonly stars: readonly Flat[];
  /** As many in a field as are looked for, flat about where it should be, the nearest first. */
  readonly sky: readonly (SkyStar & Flat)[];
}

export function searchOf(field: StarField, stars: readonly Flat[], hint: SolveHint, catalogue: StarCatalogue): Search {
  const { widthPx, heightPx } = field;
  const degPerPx = hint.scaleArcsecPerPx / 3600;
  const halfDiagonalDeg = (Math.hypot(widthPx, heightPx) / 2) * degPerPx;
  const radiusDeg = hint.radiusDeg + halfDiagonalDeg;
  const fields = (Math.PI * radiusDeg ** 2) / (widthPx * heightPx * degPerPx ** 2);
  const wanted = fields * stars.length;
  const sky = brightestOf(catalogue, hint.near, radiusDeg, wanted).flatMap((star) => {
    const plane = toTangentPlane(hint.near, star);
    return plane ? [{ ...star, x: plane.xDeg, y: plane.yDeg }] : [];
  });
  sky.sort((a, b) => a.x ** 2 + a.y ** 2 - (b.x ** 2 + b.y ** 2));
  return { hint, halfDiagonalDeg, areaPx: widthPx * heightPx, fields, stars, sky };
}

/** About so many of the brightest within a radius. */
function brightestOf(catalogue: StarCatalogue, centre: SkyPosition, radiusDeg: number, count: number): SkyStar[] {
  let found: readonly SkyStar[] = [];
  for (let mag = BRIGHTEST_MAG; found.length < count && mag <= FAINTEST_MAG; mag += MAG_STEP)
    found = catalogue(centre, radiusDeg, mag);
  return [...found].sort((a, b) => a.mag - b.mag).slice(0, Math.ceil(count));
}

export interface Shapes {
  readonly quads: readonly Quad[];
  readonly index: QuadIndex;
}

/** The shapes among the picture's stars as they are, and as in a mirror. */
export function shapesOf(search: Search): Shapes {
  const { stars, areaPx } = search;
  const grid = neighbourGrid(stars, Math.sqrt(areaPx / stars.length));
  const quads = new Map<string, Quad>();
  stars.forEach((_, index) => {
    for (const quad of quadsAt(stars, grid, index)) quads.set([...quad.stars].sort((a, b) => a - b).join(), quad);
  });
  const all = [...quads.values()];
  // A picture of the sky has east to the left where north is up: as on no map's plane, so one of both is seen in a mirror.
  const both = [...all, ...all.map(({ stars, code: [cu, cv, du, dv], length }) => ({ stars, code: [cu, -cv, du, -dv] as const, length }))]; // prettier-ignore
  return { quads: both, index: quadIndex(both.map(({ code }) => code), CODE_TOLERANCE) }; // prettier-ignore
}

/** @returns the plate of the first field that agrees beyond chance, from where it should be outwards */
export function lookFor(search: Search, shapes: Shapes = shapesOf(search)): Plate | null {
  const { sky, stars, hint, areaPx } = search;
  const { quads, index } = shapes;
  const degPerPx = hint.scaleArcsecPerPx / 3600;
  const grid = neighbourGrid(sky, Math.sqrt(areaPx / stars.length) * degPerPx);
  const refused = new Set<string>();
  for (let i = 0; i < sky.length; i++)
    for (const there of quadsAt(sky, grid, i))
      for (const place of index.like(there.code)) {
        const here = quads[place];
        const scale = there.length / here.length / degPerPx;
        if (Math.abs(scale - 1) > SCALE_TOLERANCE) continue;
        const key = `${there.stars.join()} ${here.stars.join()}`;
        if (refused.has(key)) continue;
        refused.add(key);
        const pairs = here.stars.map((star, n) => ({ at: stars[star], sky: sky[there.stars[n]] }));
        const plate = agreed(search, grid, pairs);
        if (plate) return plate;
      }
  return null;
}

/** What four stars say, held against all that are looked for. */
function agreed(search: Search, grid: ReturnType<typeof neighbourGrid>, pairs: readonly PlatePair[]): Plate | null {
  const first = fitPlate(pairs, pairs[0].sky);
  if (!first) return null;
  const middle = atMiddle(first);
  const plate = fitPlate(pairs, middle);
  if (!plate) return null;
  const { hint, halfDiagonalDeg, stars, sky, areaPx } = search;
  const flat = toTangentPlane(hint.near, middle);
  if (!flat || angleBetweenDeg(unitVector(hint.near), unitVector(middle)) > hint.radiusDeg) return null;
  const around = grid.within({ x: flat.xDeg, y: flat.yDeg }, halfDiagonalDeg * 1.02).map((n) => sky[n]);
  const found = matchesWithin(plate, stars, around, NEAR_PX);
  const byChance = (around.length * Math.PI * NEAR_PX ** 2) / areaPx;
  const others = found.length - pairs.length;
  if (chanceOf(others, byChance * (stars.length - pairs.length)) > BY_CHANCE) return null;
  return plate;
}

/** How probable it is that at least so many stars fall together by chance, where on average so many do. */
function chanceOf(count: number, mean: number): number {
  if (count <= 0) return 1;
  let term = Math.exp(-mean);
  for (let k = 1; k <= count; k++) term *= mean / k;
  return term / (1 - Math.min(0.9, mean / (count + 1)));
}

type Matches = Solved['matches'];

/** Each star of the picture with the catalogue's nearest to it. */
function matchesWithin(plate: Plate, stars: readonly Flat[], catalogue: readonly SkyStar[], withinPx: number): Matches {
  const places = catalogue.flatMap((sky) => {
    const at = skyToPlate(plate, sky);
    return at ? [{ at, sky }] : [];
  });
  return stars.flatMap(({ x, y }, star) => {
    let best: SkyStar | null = null;
    let least = withinPx * withinPx;
    for (const { at, sky } of places) {
      const apart = (at.x - x) ** 2 + (at.y - y) ** 2;
      if (apart <= least) [best, least] = [sky, apart];
    }
    return best ? [{ star, sky: best }] : [];
  });
}

/** First by those that found it, then by as many stars of the catalogue as the picture has. */
const FIT_ROUNDS_PX = [NEAR_PX, NEAR_PX, FITTED_PX, FITTED_PX];
const DEEPER = 1.3;

/** Fitted by every star that agrees, again and again about its own middle. */
export function solvedBy(
  first: Plate,
  { halfDiagonalDeg, areaPx, hint }: Search,
  all: readonly Flat[],
  catalogue: StarCatalogue,
): Solved {
  const stars = all.slice(0, MOST_FITTED);
  const radiusDeg = halfDiagonalDeg * 1.02;
  const fieldDeg = areaPx * (hint.scaleArcsecPerPx / 3600) ** 2;
  const known = brightestOf(
    catalogue,
    atMiddle(first),
    radiusDeg,
    (DEEPER * stars.length * Math.PI * radiusDeg ** 2) / fieldDeg,
  );
  let plate = first;
  let matches: Matches = [];
  for (const withinPx of FIT_ROUNDS_PX) {
    matches = matchesWithin(plate, stars, known, withinPx);
    plate = fitPlate(pairsOf(matches, stars), atMiddle(plate)) ?? plate;
  }
  return describe(plate, matches, stars);
}

const pairsOf = (matches: Matches, stars: readonly Flat[]): PlatePair[] =>
  matches.map(({ star, sky }) => ({ at: stars[star], sky }));

function describe(plate: Plate, matches: Matches, stars: readonly Flat[]): Solved {
  const { east, north, tangent } = plate;
  const residuals = pairsOf(matches, stars).map(({ at, sky }) =>
    angleBetweenDeg(unitVector(plateToSky(plate, at)), unitVector(sky)),
  );
  return {
    isSolved: true,
    centre: fromTangentPlane(tangent, { xDeg: east[0], yDeg: north[0] }),
    positionAngleDeg: wrap360(toDeg(Math.atan2(east[2], north[2]))),
    scaleArcsecPerPx: plateScaleArcsec(plate),
    isMirrored: east[1] * north[2] - east[2] * north[1] > 0,
    matches,
    meanResidualArcsec: (3600 * residuals.reduce((sum, one) => sum + one, 0)) / residuals.length,
    plate,
  };
}
