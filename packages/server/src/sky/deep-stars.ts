// Stars fainter than the shipped ones, from a list that the observatory's owner has loaded: packed by strips of declination, each
// by right ascension, so that those around a place are found without looking at the others.
import { readFileSync } from 'node:fs';
import type { SkyPosition, SkyStar } from '@meridiem/core';
import { angleBetweenDeg, FAINT_FROM_MAG, unitVector } from '@meridiem/core';

const STRIPS = 180;
const BYTES_A_STAR = 12;
const HEAD = STRIPS + 1;

export interface DeepStars {
  /** Where each strip of a degree begins, from the south, and where the last one ends. */
  readonly starts: Uint32Array;
  readonly raDeg: Float32Array;
  readonly decDeg: Float32Array;
  readonly mag: Float32Array;
}

const stripOf = (decDeg: number): number => Math.min(STRIPS - 1, Math.max(0, Math.floor(decDeg + 90)));

/** The bytes of a file; those that are shipped already, down to magnitude 9, are left out. */
export function packDeepStars(stars: readonly SkyStar[]): Uint8Array {
  const sorted = stars
    .filter(({ mag }) => mag > FAINT_FROM_MAG)
    .sort((a, b) => stripOf(a.decDeg) - stripOf(b.decDeg) || a.raDeg - b.raDeg);
  const bytes = new ArrayBuffer(4 * HEAD + BYTES_A_STAR * sorted.length);
  const { starts, raDeg, decDeg, mag } = viewsOf(bytes);
  sorted.forEach((star, i) => {
    starts[stripOf(star.decDeg) + 1] = i + 1;
    [raDeg[i], decDeg[i], mag[i]] = [star.raDeg, star.decDeg, star.mag];
  });
  // A strip without stars ends where the one before it does.
  for (let strip = 1; strip <= STRIPS; strip++) starts[strip] = Math.max(starts[strip], starts[strip - 1]);
  return new Uint8Array(bytes);
}

function viewsOf(bytes: ArrayBuffer): DeepStars {
  const count = (bytes.byteLength - 4 * HEAD) / BYTES_A_STAR;
  const floats = (nth: number): Float32Array => new Float32Array(bytes, 4 * (HEAD + nth * count), count);
  return { starts: new Uint32Array(bytes, 0, HEAD), raDeg: floats(0), decDeg: floats(1), mag: floats(2) };
}

/** @returns null where none was loaded, or the file is not whole */
export function loadDeepStars(path: string | null): DeepStars | null {
  if (path === null) return null;
  try {
    const bytes = readFileSync(path);
    if (bytes.length < 4 * HEAD || (bytes.length - 4 * HEAD) % BYTES_A_STAR !== 0) return null;
    return viewsOf(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer);
  } catch {
    return null;
  }
}

/** Those down to a magnitude. */
export function deepStarsAround(
  deep: DeepStars,
  centre: SkyPosition,
  radiusDeg: number,
  faintestMag: number,
): SkyStar[] {
  const middle = unitVector(centre);
  const found: SkyStar[] = [];
  for (let strip = stripOf(centre.decDeg - radiusDeg); strip <= stripOf(centre.decDeg + radiusDeg); strip++)
    for (const [from, to] of raRanges(centre, radiusDeg))
      for (let i = firstFrom(deep, strip, from); i < deep.starts[strip + 1] && deep.raDeg[i] <= to; i++) {
        if (deep.mag[i] > faintestMag) continue;
        const star = { raDeg: deep.raDeg[i], decDeg: deep.decDeg[i], mag: deep.mag[i] };
        if (angleBetweenDeg(middle, unitVector(star)) <= radiusDeg) found.push(star);
      }
  return found;
}

/** One range of right ascension, or two where it runs over 0; all of it near a pole. */
function raRanges({ raDeg, decDeg }: SkyPosition, radiusDeg: number): [number, number][] {
  const furthestDec = Math.abs(decDeg) + radiusDeg;
  if (furthestDec >= 89) return [[0, 360]];
  const half = radiusDeg / Math.cos((furthestDec * Math.PI) / 180);
  if (half >= 180) return [[0, 360]];
  const [from, to] = [raDeg - half, raDeg + half];
  if (from < 0) return [[0, to], [from + 360, 360]]; // prettier-ignore
  return to > 360 ? [[0, to - 360], [from, 360]] : [[from, to]]; // prettier-ignore
}

function firstFrom({ starts, raDeg }: DeepStars, strip: number, from: number): number {
  let [low, high] = [starts[strip], starts[strip + 1]];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (raDeg[middle] < from) low = middle + 1;
    else high = middle;
  }
  return low;
}
