// Exposures as they are looked at: drawn, measured, noted; files for those whose they are.
import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LedgerRow } from '@meridiem/contract';
import {
  frameFile,
  framePicture,
  listExposures,
  measureExposure,
  noteExposure,
  readDepth,
  readExposure,
  undoLast,
} from '@meridiem/contract';
import type { Masters, SensorOnSky } from '@meridiem/core';
import {
  angleBetweenDeg,
  brightened,
  calibrated,
  faintStarsAround,
  levelledFlat,
  normalFrom,
  partNamed,
  readFramePicture,
  seededRandom,
  skyBackground,
  skyToPixel,
  unitVector,
  writeFits,
} from '@meridiem/core';
import { PNG } from 'pngjs';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let folder: string;
let framed: LedgerRow;
let bare: LedgerRow;
let bytes: Uint8Array;
const NAME = 'Wren/2026-10-10/one.fits';

/** 300 × 200 pixels: sky 500, noise 8, forty round stars. */
function starField(): Uint8Array {
  const random = seededRandom(9);
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const [widthPx, heightPx] = [300, 200];
  const light = Float64Array.from({ length: widthPx * heightPx }, () => 500 + 8 * normal());
  for (let s = 0; s < 40; s++) {
    const [x, y] = [20 + 32 * (s % 8) + 6 * random(), 20 + 36 * Math.floor(s / 8) + 6 * random()];
    for (let dy = -8; dy <= 8; dy++)
      for (let dx = -8; dx <= 8; dx++) {
        const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
        light[py * widthPx + px] += 4000 * Math.exp(-((px - x) ** 2 + (py - y) ** 2) / (2 * 1.8 ** 2));
      }
  }
  return writeFits(
    { widthPx, heightPx, pixels: Uint16Array.from(light, (value) => Math.max(0, Math.round(value))) },
    [],
  );
}

const ZERO_POINT = 20.5;

/** The rendered faint stars of a field, as a frame of one minute has them. */
function skyPicture(sensor: SensorOnSky): Uint8Array {
  const { widthPx, heightPx, centre, scaleArcsecPerPx } = sensor;
  const random = seededRandom(5);
  const light = Float64Array.from({ length: widthPx * heightPx }, () => 300 + 6 * normalFrom(random));
  for (const star of faintStarsAround(centre, (scaleArcsecPerPx * Math.hypot(widthPx, heightPx)) / 7200, 15.5)) {
    const at = skyToPixel(sensor, star)!;
    const [x, y] = [at.x - 0.5, at.y - 0.5];
    const peak = (60 * 10 ** (-0.4 * (star.mag - ZERO_POINT))) / (2 * Math.PI * 1.6 ** 2);
    for (let py = Math.max(0, Math.round(y) - 8); py <= Math.min(heightPx - 1, Math.round(y) + 8); py++)
      for (let px = Math.max(0, Math.round(x) - 8); px <= Math.min(widthPx - 1, Math.round(x) + 8); px++)
        light[py * widthPx + px] += peak * Math.exp(-((px - x) ** 2 + (py - y) ** 2) / (2 * 1.6 ** 2));
  }
  return writeFits({ widthPx, heightPx, pixels: Uint16Array.from(light, (value) => Math.min(65_535, Math.round(value))) }, []); // prettier-ignore
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'frames-'));
  test = await createTestApp({
    exposures: 400,
    settings: { framesFolder: folder, cacheFolder: join(folder, 'cache') },
  });
  const { rows } = (await test.call('ilse', listExposures, { query: { limit: 300 } })).body;
  // One of a member's own, with others of its kind around it.
  framed = rows.find(({ mayJudge, projectName }) => mayJudge && projectName !== null)!;
  bare = rows.find(({ id }) => id !== framed.id)!;
  bytes = starField();
  await mkdir(join(folder, 'Wren/2026-10-10'), { recursive: true });
  await writeFile(join(folder, NAME), bytes);
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  await test.ownerDatabase.rows(
    `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256, copied) SELECT id, observatory_id, '${NAME}', ${bytes.length}, '\\x${sha256}', now() FROM exposures WHERE id = '${framed.id}'`,
  );
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

const ownerOf = async (): Promise<string> => {
  const row = await test.ownerDatabase.one<{ email: string }>(
    `SELECT p.email FROM projects j JOIN people p ON p.id = j.owner_id WHERE j.id = '${framed.projectId}'`,
  );
  return row!.email.split(/[.@]/)[0];
};
const get = async (who: string, path: string) =>
  test.app.inject({ url: `/api${path}`, headers: { cookie: await test.cookieOf(who), host: 'localhost' } });

/** The depth of the project with one measured exposure: noise 6, one minute, over the whole of its own field. */
async function isAsDeepAsItsNoise(scaleArcsecPerPx: number): Promise<void> {
  const { body } = await test.call('ilse', readDepth, { params: { id: bare.projectId! } });
  const filter = body.filters.find(({ letter }) => letter === bare.filterLetter)!;
  expect([body.projectName, filter.measured]).toEqual([bare.projectName, 1]);
  const mag = ZERO_POINT - 2.5 * Math.log10((3 * 6) / (60 * scaleArcsecPerPx * 10));
  expect(Math.abs(filter.summary!.medianMag - mag)).toBeLessThan(0.15);
  const covered = filter.cells.filter((cell) => cell !== null).length * body.grid!.stepDeg ** 2;
  expect(covered / (700 * 500 * (scaleArcsecPerPx / 3600) ** 2)).toBeCloseTo(1, 1);
  const others = body.filters.filter(({ letter }) => letter !== bare.filterLetter);
  expect(others.map(({ measured, summary }) => [measured, summary])).toEqual(others.map(() => [0, null]));
}

describe('an exposure', () => {
  it('says in the ledger whether its file was kept', async () => {
    const { rows } = (await test.call('sam', listExposures, { query: { limit: 300 } })).body;
    expect(rows.filter(({ hasFrame }) => hasFrame).map(({ id }) => id)).toEqual([framed.id]);
  });

  it('is measured by its pixels, and held against what is usual', async () => {
    const { body } = await test.call('sam', readExposure, { params: { id: framed.id } });
    expect(body.figures).toMatchObject({ widthPx: 300, heightPx: 200, starCount: 40 });
    expect(body.figures!.background).toBeCloseTo(500, -1);
    expect(body.figures!.noise).toBeCloseTo(8, 0);
    // Half the light of a round star of spread σ lies within 1.177 σ.
    expect(body.figures!.halfFluxRadiusPx).toBeCloseTo(1.177 * 1.8, 1);
    expect(body.figures!.histogram.counts.reduce((sum, count) => sum + count, 0)).toBe(60_000);
    expect(body.file).toEqual({ name: 'one.fits', sizeBytes: bytes.length });
    expect(body.row.id).toBe(framed.id);
    const withDeviations = body.deviations.map(({ figure }) => figure);
    expect(new Set(withDeviations).size).toBe(withDeviations.length);
    expect([body.beforeId, body.afterId].some((id) => id !== null)).toBe(true);
  });

  it('says where it points by its stars and how much light it has; measured once, and again when asked', async () => {
    const place = await test.ownerDatabase.one<{ raDeg: number; decDeg: number }>(
      `SELECT t.ra_deg AS "raDeg", t.dec_deg AS "decDeg" FROM ledger_rows r JOIN panel_pointings t ON t.panel_id = r.panel_id WHERE r.exposure_id = '${bare.id}' ORDER BY t.seq DESC LIMIT 1`,
    );
    await test.ownerDatabase.rows(`UPDATE exposures SET simulated = true, exposure_s = 60 WHERE id = '${bare.id}'`);
    const scaleArcsecPerPx = bare.rigName.startsWith('Wren') ? (206.2648 * 9) / 530 : (206.2648 * 7.4) / 1830;
    const centre = { raDeg: place!.raDeg + 0.05, decDeg: place!.decDeg - 0.03 };
    const picture = skyPicture({ centre, positionAngleDeg: 40, scaleArcsecPerPx, widthPx: 700, heightPx: 500 });
    await writeFile(join(folder, 'Wren/2026-10-10/two.fits'), picture);
    await test.ownerDatabase.rows(
      `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256, copied) SELECT id, observatory_id, 'Wren/2026-10-10/two.fits', ${picture.length}, '\\x${'0'.repeat(64)}', now() FROM exposures WHERE id = '${bare.id}'`,
    );
    const read = async () => (await test.call('ilse', readExposure, { params: { id: bare.id } })).body;
    const first = await read();
    const { pointing, zeroPoint, notSolved } = first.figures!;
    expect(notSolved).toBeNull();
    expect(3600 * angleBetweenDeg(unitVector(pointing!), unitVector(centre))).toBeLessThan(1);
    expect(pointing!.positionAngleDeg).toBeCloseTo(40, 1);
    expect(first.offIntended!.arcmin).toBeGreaterThan(1.5);
    expect(zeroPoint!.mag).toBeCloseTo(ZERO_POINT, 1);
    expect((await read()).measuredUtcMs).toBe(first.measuredUtcMs);
    await isAsDeepAsItsNoise(scaleArcsecPerPx);
    expect((await test.call('ilse', measureExposure, { params: { id: bare.id }, body: {} })).status).toBe(200);
    expect((await read()).measuredUtcMs).toBeGreaterThan(first.measuredUtcMs!);
    await writeFile(join(folder, 'Wren/2026-10-10/two.fits'), 'cut off');
    const again = await test.call('ilse', measureExposure, { params: { id: bare.id }, body: {} });
    expect([again.status, (await read()).figures]).toEqual([409, null]);
    await test.ownerDatabase.rows(`DELETE FROM frame_measures WHERE exposure_id = '${bare.id}'`);
    await test.ownerDatabase.rows(`DELETE FROM frames WHERE exposure_id = '${bare.id}'`);
  });

  it('is drawn whole and in parts, each once', async () => {
    for (const [query, size] of [
      ['px=220', [220, 147]],
      ['part=centre&px=220', [220, 200]],
      ['part=bottom-right&px=900', [300, 200]],
    ] as const) {
      const answer = await get('sam', `/exposures/${framed.id}/picture?${query}`);
      expect([answer.statusCode, answer.headers['content-type']]).toEqual([200, 'image/png']);
      const { width, height } = PNG.sync.read(answer.rawPayload);
      expect([width, height]).toEqual(size);
    }
    expect((await get('sam', `/exposures/${framed.id}/picture?px=12345`)).statusCode).toBe(400);
    expect((await get('sam', `/exposures/${framed.id}/picture?part=../../x`)).statusCode).toBe(400);
  });

  it('is looked at calibrated as far as the shelf has frames that fit it, and says what is missing', async () => {
    const looks = async () => (await test.call('sam', readExposure, { params: { id: framed.id } })).body.calibrated!;
    const drawn = (calibration: string) =>
      get('sam', `/exposures/${framed.id}/picture?px=440&calibration=${calibration}`);
    expect(await looks()).toEqual({
      darks: { isPossible: false, words: 'no darks of its length and temperature have come here, and no bias' },
      full: { isPossible: false, words: 'no flats of its filter and angle have come here' },
    });
    expect([(await drawn('darks')).statusCode, (await drawn('full')).json().message]).toEqual([422, expect.stringMatching(/no flats/)]); // prettier-ignore

    const size = { widthPx: 300, heightPx: 200 };
    // The sensor glows to the right; half of the light is lost to the left.
    const darks = [1, 2, 3].map(() => Float32Array.from({ length: 60_000 }, (_, i) => 100 + (i % 300)));
    const flats = [9000, 12_000, 20_000].map((light) => Float32Array.from({ length: 60_000 }, (_, i) => 100 + (i % 300) + light * (i % 300 < 150 ? 0.5 : 1))); // prettier-ignore
    const stored = async (kind: string, exposureS: string, pictures: Float32Array[]): Promise<void> => {
      for (const [n, pixels] of pictures.entries()) {
        const file = writeFits({ ...size, pixels: Uint16Array.from(pixels) }, []);
        await writeFile(join(folder, `Wren/2026-10-10/${kind}-${exposureS.length}-${n}.fits`), file);
        await test.ownerDatabase.rows(
          `WITH e AS (INSERT INTO exposures (observatory_id, rig_revision_id, night_date, kind, start_utc, exposure_s, filter_id, gain, "offset", binning, sensor_c, header_key)
             SELECT observatory_id, rig_revision_id, night_date, '${kind}', start_utc + interval '${n + 1} minute', ${exposureS}, CASE WHEN '${kind}' = 'flat' THEN filter_id END, gain, "offset", binning, sensor_c, '${kind} ${exposureS} ${n}'
             FROM exposures WHERE id = '${framed.id}' RETURNING id, observatory_id)
           INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256, copied) SELECT id, observatory_id, 'Wren/2026-10-10/${kind}-${exposureS.length}-${n}.fits', ${file.length}, '\\x${'0'.repeat(64)}', now() FROM e`,
        );
      }
    };
    await stored('dark', 'exposure_s', darks);
    expect(await looks()).toMatchObject({ darks: { isPossible: true, words: '3 darks' }, full: { isPossible: false } });
    await stored('flat', '3', flats);
    await stored('dark', '3', darks);
    expect((await looks()).full).toEqual({ isPossible: true, words: '3 flats, 3 darks' });

    const { picture: light } = await readFramePicture(bytes);
    const dark = { ...size, pixels: darks[0] };
    const flat = { ...size, pixels: Float32Array.from({ length: 60_000 }, (_, i) => (i % 300 < 150 ? 0.5 : 1)) };
    const middle = levelledFlat(flat, null);
    const levels = async (calibration: string) => PNG.sync.read((await drawn(calibration)).rawPayload).data.filter((_, i) => i % 4 === 0); // prettier-ignore
    const expected = (masters: Masters) => {
      const picture = calibrated(light, masters);
      return brightened(picture, skyBackground(picture), partNamed(picture, 'whole', 440), 440).levels;
    };
    const furthest = (a: Uint8Array, b: Uint8Array) => a.reduce((most, level, i) => Math.max(most, Math.abs(level - b[i])), 0); // prettier-ignore
    expect(furthest(await levels('darks'), expected({ dark }))).toBeLessThanOrEqual(1);
    expect(furthest(await levels('full'), expected({ dark, flat: middle }))).toBeLessThanOrEqual(2);
    expect(furthest(await levels('none'), expected({ dark }))).toBeGreaterThan(20);
    // As it was taken it may be kept; what calibrates it may be better tomorrow.
    expect([(await drawn('none')).headers['cache-control'], (await drawn('full')).headers['cache-control']]).toEqual([expect.stringContaining('immutable'), 'private, max-age=60']); // prettier-ignore
    await test.ownerDatabase.rows(
      `DELETE FROM frames WHERE exposure_id IN (SELECT id FROM exposures WHERE kind <> 'light')`,
    );
  });

  it('without a file says so, and still shows its figures', async () => {
    expect((await test.call('sam', framePicture, { params: { id: bare.id } })).status).toBe(404);
    expect((await test.call('sam', readExposure, { params: { id: bare.id } })).body).toMatchObject({
      file: null,
      figures: null,
      row: { id: bare.id, hasFrame: false },
    });
    await rm(join(folder, NAME));
    expect((await test.call('sam', readExposure, { params: { id: framed.id } })).body.file).toBeNull();
    await writeFile(join(folder, NAME), 'no FITS file at all');
    expect((await test.call('sam', readExposure, { params: { id: framed.id } })).body).toMatchObject({ figures: null });
    await writeFile(join(folder, NAME), bytes);
  });

  it('gives its file to its owner and to coordinators alone', async () => {
    const owner = await ownerOf();
    const other = ['mirela', 'jonah', 'ruan'].find((name) => name !== owner)!;
    const mine = await get(owner, `/exposures/${framed.id}/file`);
    expect([mine.statusCode, mine.headers['content-disposition'], mine.rawPayload.equals(bytes)]).toEqual([
      200,
      'attachment; filename="one.fits"',
      true,
    ]);
    expect((await get('ilse', `/exposures/${framed.id}/file`)).statusCode).toBe(200);
    expect((await test.call(other, frameFile, { params: { id: framed.id } })).status).toBe(403);
  });

  it('takes notes from those who judge it, and gives them back', async () => {
    const note = (who: string) =>
      test.call(who, noteExposure, { params: { id: framed.id }, body: { words: 'A halo round the bright star' } });
    expect((await note('ilse')).status).toBe(200);
    const notes = async () => (await test.call('sam', readExposure, { params: { id: framed.id } })).body.notes;
    expect(await notes()).toMatchObject([
      { by: expect.stringMatching(/^Ilse/), words: 'A halo round the bright star' },
    ]);
    await test.call('ilse', undoLast);
    expect(await notes()).toEqual([]);
    const owner = await ownerOf();
    expect((await note(['mirela', 'jonah', 'ruan'].find((name) => name !== owner)!)).status).toBe(403);
  });

  it('of another’s private project is not there', async () => {
    await test.ownerDatabase.rows(`UPDATE projects SET private = true WHERE id = '${framed.projectId}'`);
    const owner = await ownerOf();
    const other = ['mirela', 'jonah', 'ruan'].find((name) => name !== owner)!;
    for (const operation of [readExposure, framePicture])
      expect((await test.call(other, operation, { params: { id: framed.id } })).status).toBe(404);
    expect((await test.call(owner, readExposure, { params: { id: framed.id } })).status).toBe(200);
  });
});
