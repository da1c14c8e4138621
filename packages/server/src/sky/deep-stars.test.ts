import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { SkyPosition, SkyStar } from '@meridiem/core';
import { angleBetweenDeg, seededRandom, unitVector } from '@meridiem/core';
import { loadStarList } from '../load-stars.ts';
import { deepStarsAround, loadDeepStars } from './deep-stars.ts';

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'stars-'))));
afterAll(() => rm(folder, { recursive: true }));

const random = seededRandom(3);
const anywhere = (): SkyPosition => ({ raDeg: 360 * random(), decDeg: (180 / Math.PI) * Math.asin(2 * random() - 1) });
// As the packed file has them: whole numbers of what it can hold.
const stars: SkyStar[] = Array.from({ length: 20_000 }, () => {
  const { raDeg, decDeg } = anywhere();
  return { raDeg: Math.fround(raDeg), decDeg: Math.fround(decDeg), mag: 8 + 8 * random() };
});

async function taken(text: string) {
  const [list, out] = [join(folder, 'list.csv'), join(folder, 'stars.bin')];
  await writeFile(list, text);
  return { loaded: await loadStarList(list, out), deep: loadDeepStars(out)! };
}
const places = (found: readonly SkyStar[]): string[] => found.map(({ raDeg, decDeg }) => `${raDeg.toFixed(3)} ${decDeg.toFixed(3)}`).sort(); // prettier-ignore

describe('a list of faint stars', () => {
  it('is packed, and those around a place are found as by looking at all', async () => {
    const rows = stars.map(({ raDeg, decDeg, mag }, n) => `${n},${raDeg},${decDeg},${mag}`);
    const { loaded, deep } = await taken(['# made up', 'id,ra_deg,dec_deg,mag', ...rows, 'x,,,', ''].join('\r\n'));
    const faint = stars.filter(({ mag }) => mag > 9);
    expect(loaded).toEqual({ stars: faint.length, bright: stars.length - faint.length, others: 1 });
    const asked = [{ raDeg: 0.4, decDeg: -20 }, { raDeg: 359.7, decDeg: 50 }, { raDeg: 100, decDeg: 89 }, { raDeg: 30, decDeg: -87 }, ...Array.from({ length: 20 }, anywhere)]; // prettier-ignore
    for (const centre of asked)
      for (const [radiusDeg, faintestMag] of [
        [2, 16],
        [6, 12],
      ]) {
        const near = faint.filter((star) => star.mag <= faintestMag && angleBetweenDeg(unitVector(star), unitVector(centre)) <= radiusDeg); // prettier-ignore
        expect(places(deepStarsAround(deep, centre, radiusDeg, faintestMag))).toEqual(places(near));
      }
  });

  it('is refused without a heading or stars, and one that is cut off is none', async () => {
    await expect(taken('10,20,11\n11,21,12\n')).rejects.toThrow('names no column');
    await expect(taken('ra,dec,mag\nx,y,z\n')).rejects.toThrow('No line of the list holds a star');
    expect(loadDeepStars(join(folder, 'nowhere.bin'))).toBeNull();
    expect(loadDeepStars(null)).toBeNull();
    await writeFile(join(folder, 'cut.bin'), Buffer.alloc(730));
    expect(loadDeepStars(join(folder, 'cut.bin'))).toBeNull();
  });
});
