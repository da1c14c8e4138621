import { chmod, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { faintStarsAround, normalFrom, seededRandom, skyToPixel, writeFits } from '@meridiem/core';
import { packDeepStars } from '../sky/deep-stars.ts';
import { measureJob } from './frame-job.ts';

const SENSOR = { centre: { raDeg: 80, decDeg: -30 }, positionAngleDeg: 25, scaleArcsecPerPx: 3.5, widthPx: 700, heightPx: 500 }; // prettier-ignore
const WCS = [
  ['CTYPE1', 'RA---TAN'], ['CTYPE2', 'DEC--TAN'], ['CRVAL1', 80], ['CRVAL2', -30], ['CRPIX1', 350.5], ['CRPIX2', 250.5],
  ['CDELT1', -3.5 / 3600], ['CDELT2', 3.5 / 3600], ['CROTA2', 0],
].map(([keyword, value]) => ({ keyword, value })); // prettier-ignore

/** The rendered faint stars stand for those of a real sky that only a list knows. */
function picture(cards: object[]): Uint8Array {
  const random = seededRandom(5);
  const { widthPx, heightPx, centre } = SENSOR;
  const light = Float64Array.from({ length: widthPx * heightPx }, () => 300 + 6 * normalFrom(random));
  for (const star of faintStarsAround(centre, 0.6, 14.5)) {
    const at = skyToPixel(SENSOR, star)!;
    const peak = (60 * 10 ** (-0.4 * (star.mag - 20.5))) / (2 * Math.PI * 1.6 ** 2);
    for (let y = Math.max(0, Math.round(at.y) - 8); y <= Math.min(heightPx - 1, at.y + 8); y++)
      for (let x = Math.max(0, Math.round(at.x) - 8); x <= Math.min(widthPx - 1, at.x + 8); x++)
        light[y * widthPx + x] += peak * Math.exp(-((x + 0.5 - at.x) ** 2 + (y + 0.5 - at.y) ** 2) / (2 * 1.6 ** 2));
  }
  return writeFits({ widthPx, heightPx, pixels: Uint16Array.from(light, (value) => Math.min(65_535, Math.round(value))) }, cards as never); // prettier-ignore
}

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'pointing-'));
  await writeFile(join(folder, 'plain.fits'), picture([]));
  await writeFile(join(folder, 'placed.fits'), picture(WCS));
  await writeFile(join(folder, 'stars.bin'), packDeepStars(faintStarsAround(SENSOR.centre, 8, 15)));
});
afterAll(() => rm(folder, { recursive: true }));

const measured = (file: string, more: object = {}) =>
  measureJob({
    path: join(folder, file),
    near: { raDeg: 82, decDeg: -31 },
    ...{ scaleArcsecPerPx: 3.5, exposureSec: 60, isSimulated: false, deepStarsFile: null, solverProgram: null },
    ...more,
  });
async function program(words: string): Promise<string> {
  const path = join(folder, `solver-${words.length}`);
  await writeFile(path, `#!/usr/bin/env node\n${words}`);
  await chmod(path, 0o755);
  return path;
}

describe('a picture of a real sky', () => {
  it('is not solved by the bright stars alone, and says so', async () => {
    const { pointing, notSolved, zeroPoint } = await measured('plain.fits');
    expect([pointing, zeroPoint]).toEqual([null, null]);
    expect(notSolved).toMatch(/^\d\.\d catalogue stars in a field like this are too few/);
  });

  it('is solved by the list that the owner has loaded, with its zero point', async () => {
    const { pointing, zeroPoint } = await measured('plain.fits', { deepStarsFile: join(folder, 'stars.bin') });
    expect(pointing).toMatchObject({ by: 'stars', raDeg: expect.closeTo(80, 3), decDeg: expect.closeTo(-30, 3) });
    expect(zeroPoint!.mag).toBeCloseTo(20.5, 1);
  });

  it('points where its own file says, where that fits its optics', async () => {
    const { pointing, notSolved, zeroPoint } = await measured('placed.fits');
    expect(pointing).toMatchObject({ by: 'header', raDeg: expect.closeTo(80, 6), decDeg: expect.closeTo(-30, 6), isMirrored: false }); // prettier-ignore
    expect([notSolved, zeroPoint]).toEqual([null, null]);
    expect((await measured('placed.fits', { scaleArcsecPerPx: 1.2 })).pointing).toBeNull();
    // A simulated one is known by its stars or not at all.
    expect((await measured('placed.fits', { isSimulated: true, near: { raDeg: 10, decDeg: 50 } })).pointing).toBeNull();
  });

  it('points where the site’s program says, which is told what is known', async () => {
    const answers = await program(`let text = ''; process.stdin.on('data', (part) => (text += part)).on('end', () => {
      const { near, scaleArcsecPerPx } = JSON.parse(text);
      if (!process.argv[2].endsWith('plain.fits')) process.exit(1);
      console.log(JSON.stringify({ raDeg: near.raDeg - 2, decDeg: near.decDeg + 1, positionAngleDeg: 25, scaleArcsecPerPx, isMirrored: true }));
    });`);
    const { pointing } = await measured('plain.fits', { solverProgram: answers });
    expect(pointing).toEqual({ by: 'solver', raDeg: 80, decDeg: -30, positionAngleDeg: 25, scaleArcsecPerPx: 3.5, isMirrored: true, starCount: 0, meanResidualArcsec: 0 }); // prettier-ignore
  });

  it.each([
    ['fails', 'process.exit(3)'],
    ['says nonsense', 'console.log("north")'],
    ['names a place beyond the sky', 'console.log(JSON.stringify({ raDeg: 400, decDeg: 0, positionAngleDeg: 0, scaleArcsecPerPx: 1, isMirrored: false }))'],
    ['is not there', null],
  ])('stays unsolved where that program %s', async (_, words) => {
    const solverProgram = words === null ? join(folder, 'nothing') : await program(words);
    expect((await measured('plain.fits', { solverProgram })).notSolved).toMatch(/catalogue stars/);
  }); // prettier-ignore
});
