// A sky survey that is none: the catalogue's stars, the seeded faint ones, the Milky Way and objects as soft shapes, as a picture.
import { readFileSync } from 'node:fs';
import type { PictureFrame, SkyStar } from '@meridiem/core';
import {
  FAINT_FROM_MAG,
  faintestShown,
  faintStarsAround,
  fromTangentPlane,
  galacticLatitudeDeg,
  seededRandom,
  seedFrom,
  toTangentPlane,
} from '@meridiem/core';

export interface SurveyObject {
  readonly designation: string;
  readonly kind: string;
  readonly mag: number | null;
  readonly sizeArcmin: number | null;
  readonly raDeg: number;
  readonly decDeg: number;
}

export interface SurveySky {
  readonly stars: readonly SkyStar[];
  readonly objects: readonly SurveyObject[];
}

/** Reads the tables that ship with the application.
 * @param folder with stars.bin and objects.json */
export function loadSurveySky(folder: string): SurveySky {
  const bytes = readFileSync(`${folder}/stars.bin`);
  const count = bytes.length / 9;
  const floats = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + 8 * count));
  const stars = Array.from({ length: count }, (_, i) => ({
    raDeg: floats[i],
    decDeg: floats[count + i],
    mag: bytes[8 * count + i] / 10 - 2,
  }));
  type Row = [string, string | null, string | null, string, number | null, number | null, number, number];
  const rows = JSON.parse(readFileSync(`${folder}/objects.json`, 'utf8')) as Row[];
  const objects = rows.map(([designation, , , kind, mag, sizeArcmin, raDeg, decDeg]) => ({ designation, kind, mag, sizeArcmin, raDeg, decDeg })); // prettier-ignore
  return { stars, objects };
}

/** The stars that a picture shows: the catalogue's, and the rendered ones where it ends. */
export function starsShown(sky: SurveySky, { centre, widthDeg }: PictureFrame): SkyStar[] {
  const radiusDeg = widthDeg * 0.72;
  const near = sky.stars.filter(({ raDeg, decDeg }) => {
    if (Math.abs(decDeg - centre.decDeg) > radiusDeg) return false;
    const plane = toTangentPlane(centre, { raDeg, decDeg });
    return plane !== null && Math.max(Math.abs(plane.xDeg), Math.abs(plane.yDeg)) <= widthDeg * 0.55;
  });
  const faintest = faintestShown(widthDeg);
  return [...near, ...(faintest > FAINT_FROM_MAG ? faintStarsAround(centre, radiusDeg, faintest) : [])];
}

/** Grey levels of a square picture, row by row from the north-east corner. */
export function renderSky(sky: SurveySky, frame: PictureFrame, px: number): Uint8Array {
  const light = new Float32Array(px * px);
  addMilkyWay(light, frame, px);
  for (const object of sky.objects) addObject(light, frame, px, object);
  for (const star of starsShown(sky, frame)) addStar(light, frame, px, star);
  return Uint8Array.from(light, (value) => Math.max(0, Math.min(255, Math.round(value))));
}

/** Where a place falls on a picture; null behind its plane. */
export function pixelOf({ centre, widthDeg }: PictureFrame, px: number, place: { raDeg: number; decDeg: number }) {
  const plane = toTangentPlane(centre, place);
  return plane && { x: (0.5 - plane.xDeg / widthDeg) * px, y: (0.5 - plane.yDeg / widthDeg) * px };
}

/** Galactic latitude changes slowly: worked out on a coarse net, bilinear in between. */
function addMilkyWay(light: Float32Array, { centre, widthDeg }: PictureFrame, px: number): void {
  const NET = 12;
  const glow = Array.from({ length: (NET + 1) ** 2 }, (_, i) => {
    const place = fromTangentPlane(centre, {
      xDeg: (0.5 - (i % (NET + 1)) / NET) * widthDeg,
      yDeg: (0.5 - Math.floor(i / (NET + 1)) / NET) * widthDeg,
    });
    return 16 + 34 * Math.exp(-((galacticLatitudeDeg(place) / 9) ** 2));
  });
  for (let y = 0; y < px; y++)
    for (let x = 0; x < px; x++) {
      const [u, v] = [(x / px) * NET, (y / px) * NET];
      const [i, j] = [Math.floor(u), Math.floor(v)];
      const at = (a: number, b: number): number => glow[(j + b) * (NET + 1) + i + a];
      const [s, t] = [u - i, v - j];
      light[y * px + x] +=
        at(0, 0) * (1 - s) * (1 - t) + at(1, 0) * s * (1 - t) + at(0, 1) * (1 - s) * t + at(1, 1) * s * t;
    }
}

/** How an object's light falls off: clusters have none of their own, galaxies a bright middle, nebulae soft knots. */
function addObject(light: Float32Array, frame: PictureFrame, px: number, object: SurveyObject): void {
  const radiusDeg = (object.sizeArcmin ?? 0) / 120;
  const radius = (radiusDeg / frame.widthDeg) * px;
  if (radius < 0.7 || Math.abs(object.decDeg - frame.centre.decDeg) > frame.widthDeg + radiusDeg) return;
  const at = pixelOf(frame, px, object);
  if (!at || at.x < -radius || at.x > px + radius || at.y < -radius || at.y > px + radius) return;
  const random = seededRandom(seedFrom(object.designation));
  const isGalaxy = object.kind.includes('galax');
  const isCluster = object.kind.includes('cluster') && !object.kind.includes('nebul');
  // Catalogues of sizes give the longer side; how narrow and which way is the survey's own guess.
  const narrow = isGalaxy ? 0.35 + 0.6 * random() : isCluster ? 1 : 0.6 + 0.4 * random();
  const turn = Math.PI * random();
  const strength = isCluster ? 14 : 26 + 60 * Math.max(0, Math.min(1, (12 - (object.mag ?? 10)) / 9));
  const knots =
    isGalaxy || isCluster
      ? []
      : Array.from({ length: 5 }, () => [random() * 1.2 - 0.6, random() * 1.2 - 0.6, 0.15 + 0.3 * random()]);
  const [left, right] = [Math.max(0, Math.floor(at.x - radius)), Math.min(px - 1, Math.ceil(at.x + radius))];
  const [top, bottom] = [Math.max(0, Math.floor(at.y - radius)), Math.min(px - 1, Math.ceil(at.y + radius))];
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const [dx, dy] = [(x + 0.5 - at.x) / radius, (y + 0.5 - at.y) / radius];
      const along = dx * Math.cos(turn) + dy * Math.sin(turn);
      const across = (dy * Math.cos(turn) - dx * Math.sin(turn)) / narrow;
      const r2 = along * along + across * across;
      if (r2 > 1) continue;
      const edge = (1 - r2) ** 2;
      const body = isGalaxy ? 0.35 * edge + 1.3 * Math.exp(-14 * Math.sqrt(r2)) : edge;
      const texture = knots.reduce(
        (sum, [kx, ky, size]) => sum + 0.5 * Math.exp(-((along - kx) ** 2 + (across - ky) ** 2) / size ** 2),
        0.4,
      );
      light[y * px + x] += strength * body * (knots.length > 0 ? texture : 1);
    }
}

/** A soft dot: brighter stars saturate and grow. */
function addStar(light: Float32Array, frame: PictureFrame, px: number, star: SkyStar): void {
  const at = pixelOf(frame, px, star);
  if (!at) return;
  const peak = 70 * 10 ** (0.16 * (faintestShown(frame.widthDeg) - star.mag));
  const sigma = 0.75 + Math.max(0, 0.22 * (8 - star.mag)) * (px / 384);
  const reach = Math.ceil(3 * sigma);
  for (let y = Math.floor(at.y) - reach; y <= Math.floor(at.y) + reach; y++)
    for (let x = Math.floor(at.x) - reach; x <= Math.floor(at.x) + reach; x++) {
      if (x < 0 || y < 0 || x >= px || y >= px) continue;
      const r2 = (x + 0.5 - at.x) ** 2 + (y + 0.5 - at.y) ** 2;
      light[y * px + x] += Math.min(255, peak) * Math.exp(-r2 / (2 * sigma * sigma));
    }
}
