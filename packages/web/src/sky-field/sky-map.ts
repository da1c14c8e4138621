// The map of a piece of sky, drawn on a canvas: stars by brightness, objects as outlines, the lines of the grid.
import type { SkyStar, Vector3 } from '@meridiem/core';
import { faintStarsAround, formatDeclination, formatRightAscension, toDeg, toRad, unitVector } from '@meridiem/core';
import type { ScreenPoint, SkyView } from './projection.ts';
import { pixelsOf, reachOf, screenOf, toScreen } from './projection.ts';

export interface MapStar {
  readonly direction: Vector3;
  readonly mag: number;
}
export interface MapObject {
  readonly direction: Vector3;
  readonly radiusDeg: number;
  readonly name: string;
}
/** What is on the map, ready for drawing from any centre near by. */
export interface SkyContent {
  readonly stars: readonly MapStar[];
  readonly objects: readonly MapObject[];
}

/** What of the map is wanted. */
export interface MapWish {
  readonly names: boolean;
  readonly grid: boolean;
}
export interface MapInks {
  readonly ink: string;
  readonly outline: string;
  readonly line: string;
}

/** Rendered stars on a map: about this many, however wide it is. */
const FAINT_STARS = 1500;
const FAINTEST_DRAWN = [9.5, 10, 10.5, 11, 11.5, 12, 12.5, 13, 13.5, 14, 14.5, 15, 15.5, 16];
/** Each half magnitude shows about this many times more stars. */
const MORE_PER_STEP = 1.6;

/** Rendered stars for a view: deeper the less sky there is. Where the catalogue's own fill the map, none. */
export function faintStarsFor(view: SkyView): SkyStar[] {
  const reachDeg = reachOf(view);
  let found: SkyStar[] = [];
  for (const mag of FAINTEST_DRAWN) {
    if (reachDeg > MOST_REACH_DEG) return found;
    const more = faintStarsAround(view.centre, reachDeg, mag);
    if (more.length > FAINT_STARS) return found;
    found = more;
    if (found.length * MORE_PER_STEP > FAINT_STARS) return found;
  }
  return found;
}
/** On wider maps rendered stars would only be a haze. */
const MOST_REACH_DEG = 9;

/** Objects smaller than this on the drawing carry no outline. */
const SMALLEST_PX = 5;
const MOST_NAMES = 14;

/** Draws the map over what is there. */
export function drawMap(
  to: CanvasRenderingContext2D,
  view: SkyView,
  { stars, objects }: SkyContent,
  wish: MapWish,
  inks: MapInks,
): void {
  const place = screenOf(view);
  const isSeen = (point: ScreenPoint | null, room: number): point is ScreenPoint =>
    point !== null &&
    point.x > -room &&
    point.x < view.widthPx + room &&
    point.y > -room &&
    point.y < view.heightPx + room;
  if (wish.grid) drawGrid(to, view, inks.line);
  to.fillStyle = inks.ink;
  for (const { direction, mag } of stars) {
    const point = place(direction);
    if (!isSeen(point, 6)) continue;
    const radius = starRadiusPx(mag);
    // A square of its size looks the same as so small a disc and is drawn several times faster.
    if (radius < 1.1) to.fillRect(point.x - radius, point.y - radius, 2 * radius, 2 * radius);
    else disc(to, point, radius);
  }
  to.strokeStyle = to.fillStyle = inks.outline;
  to.lineWidth = 0.8;
  to.font = '11px "Public Sans Variable", sans-serif';
  let named = 0;
  for (const { direction, radiusDeg, name } of objects) {
    const [point, radius] = [place(direction), pixelsOf(view, radiusDeg)];
    if (!isSeen(point, radius) || radius < SMALLEST_PX || radius > view.widthPx) continue;
    to.setLineDash([3, 3]);
    to.beginPath();
    to.arc(point.x, point.y, radius, 0, 2 * Math.PI);
    to.stroke();
    if (wish.names && named++ < MOST_NAMES) to.fillText(name, point.x + radius * 0.72 + 3, point.y - radius * 0.72 - 2);
  }
  to.setLineDash([]);
}

const starRadiusPx = (mag: number): number => Math.max(mag > 12 ? 0.4 : 0.6, 4.4 - 0.37 * mag);

function disc(to: CanvasRenderingContext2D, { x, y }: ScreenPoint, radius: number): void {
  to.beginPath();
  to.arc(x, y, radius, 0, 2 * Math.PI);
  to.fill();
}

const DEC_STEPS_DEG = [1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 900].map((arcmin) => arcmin / 60);
const RA_STEPS_DEG = [2, 5, 10, 30, 60, 120, 300, 600, 1200, 3600, 7200, 10_800].map((sec) => sec / 240);
/** About so many lines cross a view. */
const LINES = 5;
const SAMPLES = 48;

const stepFor = (steps: readonly number[], spanDeg: number): number =>
  steps.find((step) => spanDeg / step <= LINES) ?? steps.at(-1)!;

/** Lines of right ascension and declination that cross a view, as places along each. */
export function gridLines(view: SkyView): { label: string; points: { raDeg: number; decDeg: number }[] }[] {
  const reach = reachOf(view);
  const { raDeg, decDeg } = view.centre;
  const [south, north] = [Math.max(-90, decDeg - reach), Math.min(90, decDeg + reach)];
  const isPolar = north >= 89.9 || south <= -89.9;
  const halfRaDeg = isPolar
    ? 180
    : Math.min(180, toDeg(Math.asin(Math.min(1, Math.sin(toRad(reach)) / Math.cos(toRad(decDeg))))));
  const along = (from: number, until: number): number[] =>
    Array.from({ length: SAMPLES + 1 }, (_, i) => from + ((until - from) * i) / SAMPLES);
  const multiples = (from: number, until: number, step: number): number[] =>
    Array.from(
      { length: Math.max(0, Math.floor(until / step) - Math.ceil(from / step) + 1) },
      (_, i) => (Math.ceil(from / step) + i) * step,
    );
  const [decStep, raStep] = [
    stepFor(DEC_STEPS_DEG, view.widthDeg),
    stepFor(RA_STEPS_DEG, isPolar ? 225 : 2 * halfRaDeg),
  ];
  const parallels = multiples(south, north, decStep)
    .filter((line) => Math.abs(line) < 90)
    .map((line) => ({
      label: formatDeclination(line).replace(/ 00″$/, ''),
      points: along(raDeg - halfRaDeg, raDeg + halfRaDeg).map((ra) => ({ raDeg: ra, decDeg: line })),
    }));
  const meridians = multiples(raDeg - halfRaDeg, raDeg + halfRaDeg - (isPolar ? 1e-6 : 0), raStep).map((line) => ({
    label: formatRightAscension((line + 360) % 360).replace(/ 00\.0s$/, ''),
    points: along(south, north).map((dec) => ({ raDeg: line, decDeg: dec })),
  }));
  return [...parallels, ...meridians];
}

function drawGrid(to: CanvasRenderingContext2D, view: SkyView, ink: string): void {
  to.strokeStyle = to.fillStyle = ink;
  to.lineWidth = 0.6;
  to.font = '10px "Public Sans Variable", sans-serif';
  for (const { label, points } of gridLines(view)) {
    let isDrawing = false;
    let labelled = false;
    to.beginPath();
    for (const point of points) {
      const at = toScreen(view, point);
      if (!at) {
        isDrawing = false;
        continue;
      }
      if (isDrawing) to.lineTo(at.x, at.y);
      else to.moveTo(at.x, at.y);
      isDrawing = true;
      if (!labelled && at.x > 4 && at.x < view.widthPx - 70 && at.y > 14 && at.y < view.heightPx - 6) {
        to.fillText(label, at.x + 3, at.y - 3);
        labelled = true;
      }
    }
    to.stroke();
  }
}

/** Stars and objects as the server tells them, ready for drawing. */
export const contentOf = (
  around: {
    readonly stars: readonly (readonly [raDeg: number, decDeg: number, mag: number])[];
    readonly objects: readonly {
      readonly raDeg: number;
      readonly decDeg: number;
      readonly sizeArcmin: number | null;
      readonly designation: string;
    }[];
  },
  faint: readonly SkyStar[],
): SkyContent => ({
  stars: [
    ...around.stars.map(([raDeg, decDeg, mag]) => ({ direction: unitVector({ raDeg, decDeg }), mag })),
    ...faint.map((star) => ({ direction: unitVector(star), mag: star.mag })),
  ],
  objects: around.objects.map((object) => ({
    direction: unitVector(object),
    radiusDeg: (object.sizeArcmin ?? 0) / 120,
    name: object.designation,
  })),
});
