// A project's frames handed over: own lights alone, checked by another program, and a cut download that goes on.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readDelivery } from '@meridiem/contract';
import { seededRandom, writeFits } from '@meridiem/core';
import { byteRange } from '../src/modules/delivery/byte-range.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let folder: string;
let projectId: string;
let owner: string;
let ids: string[];
const READER = new URL('../../../scripts/read-frames.py', import.meta.url).pathname;

interface ReadFrame {
  readonly name: string;
  readonly serial: string;
  readonly kind: string;
  readonly filter: string | null;
  readonly gain: number;
  readonly offset: number;
  readonly binning: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly pixels: string;
}

const OTHERS = ['mirela', 'jonah', 'ruan'];
const random = seededRandom(5);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'delivery-'));
  test = await createTestApp({ exposures: 400, settings: { framesFolder: folder } });
  const [most] = await test.ownerDatabase.rows<{ id: string; email: string }>(
    `SELECT p.id, o.email FROM ledger_rows r JOIN projects p ON p.id = r.project_id JOIN people o ON o.id = p.owner_id WHERE r.verdict = 'accepted' GROUP BY p.id, o.email ORDER BY count(*) DESC LIMIT 1`,
  );
  [projectId, owner] = [most.id, most.email.split(/[.@]/)[0]];
  const taken = await test.ownerDatabase.rows<{ id: string }>(
    `(SELECT exposure_id AS id FROM ledger_rows WHERE project_id = '${projectId}' AND verdict = 'accepted' ORDER BY start_utc LIMIT 6)
     UNION ALL (SELECT exposure_id FROM ledger_rows WHERE project_id <> '${projectId}' ORDER BY start_utc LIMIT 3)`,
  );
  ids = taken.map(({ id }) => id);
  for (const [i, id] of ids.entries()) await addFrame(id, `Wren/night/frame-${i}.fits`);
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

/** What each written frame must be read as, by its own name on this server. */
const written = new Map<
  string,
  { exposureId: string; kind: string; gain: number; filter: string | null; pixels: string }
>();

async function addFrame(id: string, name: string): Promise<void> {
  const [row] = await test.ownerDatabase.rows<{ kind: string; gain: number; offset: number; binning: number; filter: string | null }>(
    `SELECT e.kind, e.gain, e."offset", e.binning, f.letter AS filter FROM exposures e LEFT JOIN filters f ON f.id = e.filter_id WHERE e.id = '${id}'`,
  ); // prettier-ignore
  const pixels = Uint16Array.from({ length: 30 * 20 }, () => Math.floor(65_536 * random()));
  const bytes = writeFits({ widthPx: 30, heightPx: 20, pixels }, [
    { keyword: 'SERIAL', value: name },
    { keyword: 'IMAGETYP', value: row.kind },
    ...(row.filter ? [{ keyword: 'FILTER', value: row.filter }] : []),
    { keyword: 'GAIN', value: row.gain },
    { keyword: 'OFFSET', value: row.offset },
    { keyword: 'XBINNING', value: row.binning },
  ]);
  await mkdir(dirname(join(folder, name)), { recursive: true });
  await writeFile(join(folder, name), bytes);
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const bigEndian = Buffer.from(pixels.buffer.slice(0)).swap16();
  written.set(name, { exposureId: id, kind: row.kind, gain: row.gain, filter: row.filter, pixels: createHash('sha256').update(bigEndian).digest('hex') }); // prettier-ignore
  await test.ownerDatabase.rows(
    `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256) SELECT id, observatory_id, '${name}', ${bytes.length}, '\\x${sha256}' FROM exposures WHERE id = '${id}'`,
  );
}

const archive = async (who: string, headers: Record<string, string> = {}, query = '') =>
  test.app.inject({
    url: `/api/projects/${projectId}/delivery/archive${query}`,
    headers: { cookie: await test.cookieOf(who), host: 'localhost', ...headers },
  });
const read = (who: string, query = {}) => test.call(who, readDelivery, { params: { id: projectId }, query });

describe('a delivery', () => {
  it('holds the project’s own frames, named by chosen parts, and says what has no file', async () => {
    const { body } = await read(owner);
    expect(new Set(body.files.map(({ exposureId }) => exposureId))).toEqual(new Set(ids.slice(0, 6)));
    expect(body.files.every(({ kind }) => kind === 'light')).toBe(true);
    expect(body.withoutFile).toBeGreaterThan(0);
    expect(body.missing).toEqual([]);
    for (const { name } of body.files) expect(name).toMatch(/^\d{4}-\d\d-\d\d\/[A-Za-z0-9-]+\/[A-Za-z0-9_-]+\.fits$/);
    const flat = (await read(owner, { folders: '', name: 'kind' })).body.files.map(({ name }) => name);
    expect(flat).toEqual(['light.fits', ...[2, 3, 4, 5, 6].map((number) => `light_${number}.fits`)]);
    expect((await read(owner, { name: 'panel,owner' })).status).toBe(400);
  });

  it('brings the calibration that fits its lights, in folders of its own, and no other', async () => {
    const likeIt = async (kind: string, change = ''): Promise<string> => {
      const columns =
        'observatory_id, rig_revision_id, night_date, exposure_s, gain, "offset", binning, sensor_c, filter_id';
      const [{ id }] = await test.ownerDatabase.rows<{ id: string }>(
        `INSERT INTO exposures (${columns}, kind, start_utc, header_key) SELECT observatory_id, rig_revision_id, night_date, ${kind === 'bias' ? '0' : 'exposure_s'}, gain ${change}, "offset", binning, sensor_c,
           ${kind === 'flat' ? 'filter_id' : 'NULL'}, '${kind}', start_utc + interval '6 hours' + ${random()} * interval '1 hour', gen_random_uuid()::text FROM exposures WHERE id = '${ids[0]}' RETURNING id`,
      );
      await addFrame(id, `Wren/night/${kind}-${id.slice(0, 8)}.fits`);
      return id;
    };
    const before = (await read(owner)).body.files.length;
    const fitting = [await likeIt('flat'), await likeIt('flat'), await likeIt('dark'), await likeIt('bias')];
    for (const kind of ['flat', 'dark', 'bias']) await likeIt(kind, '+ 7');
    const { files } = (await read(owner)).body;
    const calibration = files.filter(({ kind }) => kind !== 'light');
    expect(calibration.map(({ exposureId }) => exposureId).sort()).toEqual(fitting.sort());
    for (const { name, kind, verdict } of calibration) {
      expect(name.startsWith(`calibration/${kind}/`)).toBe(true);
      expect(verdict).toBeNull();
    }
    expect(new Set(files.map(({ name }) => name.toLowerCase())).size).toBe(files.length);
    expect((await read(owner, { calibration: 'without' })).body.files).toHaveLength(before);
  });

  it('is for its owner and coordinators alone', async () => {
    expect((await read('ilse')).status).toBe(200);
    for (const who of OTHERS.filter((name) => name !== owner)) {
      expect((await read(who)).status).toBe(403);
      expect((await archive(who)).statusCode).toBe(403);
    }
  });

  it('unpacks with another program, every checksum right', async () => {
    const { headers, rawPayload } = await archive(owner);
    expect(Number(headers['content-length'])).toBe(rawPayload.length);
    expect((await read(owner)).body.archiveBytes).toBe(rawPayload.length);
    const out = join(folder, 'out');
    await mkdir(out);
    await writeFile(join(folder, 'all.tar'), rawPayload);
    execFileSync('tar', ['-xf', join(folder, 'all.tar'), '-C', out]);
    expect(execFileSync('sha256sum', ['--check', '--quiet', 'checksums.sha256'], { cwd: out, encoding: 'utf8' })).toBe(
      '',
    );
    const lines = (await readFile(join(out, 'frames.csv'), 'utf8')).trim().split('\n');
    expect(lines).toHaveLength(11);
    expect(lines[1].split(',').slice(0, 2)).toEqual([(await read(owner)).body.files[0].name, 'light']);
    expect(lines[1].split(',')[0]).toBe((await read(owner)).body.files[0].name);
  });

  // The independent library is there with --long.
  const withAstropy = process.env.MERIDIEM_LONG === '1' ? it : it.skip;
  withAstropy('is read whole by an independent FITS reader: each file what its list says, pixel for pixel', async () => {
    const out = join(folder, 'read');
    await mkdir(out);
    await writeFile(join(folder, 'read.tar'), (await archive(owner)).rawPayload);
    execFileSync('tar', ['-xf', join(folder, 'read.tar'), '-C', out]);
    const frames = JSON.parse(execFileSync('/usr/bin/python3', [READER, out], { encoding: 'utf8' })) as ReadFrame[];
    const { files } = (await read(owner)).body;
    expect(frames.map(({ name }) => name).sort()).toEqual(files.map(({ name }) => name).sort());
    expect(new Set(frames.map(({ name }) => name.toLowerCase())).size).toBe(frames.length);
    const lights = frames.filter(({ kind }) => kind === 'light');
    for (const frame of frames) {
      const own = written.get(frame.serial)!;
      const listed = files.find(({ name }) => name === frame.name)!;
      expect(listed.exposureId).toBe(own.exposureId);
      expect(listed.kind).toBe(frame.kind);
      expect([frame.widthPx, frame.heightPx]).toEqual([30, 20]);
      expect(frame).toMatchObject({ kind: own.kind, gain: own.gain, filter: own.filter, pixels: own.pixels });
      if (frame.kind === 'light') continue;
      const isFitting = ({ gain, offset, binning, filter }: ReadFrame): boolean =>
        gain === frame.gain && offset === frame.offset && binning === frame.binning && (frame.kind !== 'flat' || filter === frame.filter);
      expect(lights.some(isFitting)).toBe(true);
    }
    const own = await test.ownerDatabase.rows<{ id: string }>(`SELECT exposure_id AS id FROM ledger_rows WHERE project_id = '${projectId}'`);
    const ownIds = new Set(own.map(({ id }) => id));
    for (const { serial } of lights) expect(ownIds.has(written.get(serial)!.exposureId)).toBe(true);
  }); // prettier-ignore

  it('goes on where it was cut, at any byte, twenty times over', async () => {
    const whole = (await archive(owner)).rawPayload;
    const parts: Buffer[] = [];
    let at = 0;
    let tag = '';
    for (let cut = 0; at < whole.length; cut++) {
      const answer = await archive(owner, at === 0 ? {} : { range: `bytes=${at}-`, 'if-range': tag });
      expect(answer.statusCode).toBe(at === 0 ? 200 : 206);
      tag = answer.headers.etag as string;
      const got = cut < 20 ? Math.floor((answer.rawPayload.length / 4) * random()) : answer.rawPayload.length;
      parts.push(answer.rawPayload.subarray(0, got));
      at += got;
    }
    expect(Buffer.concat(parts).equals(whole)).toBe(true);
    expect((await archive(owner, { range: `bytes=${whole.length}-` })).statusCode).toBe(416);
  });

  it('begins again where another frame has come since, rather than mixing two archives', async () => {
    const { headers, rawPayload } = await archive(owner);
    const [one] = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT exposure_id AS id FROM ledger_rows r WHERE project_id = '${projectId}' AND verdict = 'accepted' AND NOT EXISTS (SELECT 1 FROM frames f WHERE f.exposure_id = r.exposure_id) LIMIT 1`,
    );
    await addFrame(one.id, 'Wren/night/later.fits');
    const answer = await archive(owner, { range: 'bytes=1000-', 'if-range': headers.etag as string });
    expect(answer.statusCode).toBe(200);
    expect(answer.rawPayload.length).toBeGreaterThan(rawPayload.length);
  });

  it('says which file is not there as it was written, and leaves it out', async () => {
    await writeFile(join(folder, 'Wren/night/frame-2.fits'), 'short');
    const { body } = await read(owner);
    expect(body.missing).toEqual(['Wren/night/frame-2.fits']);
    expect(body.files.filter(({ kind }) => kind === 'light')).toHaveLength(6);
  });
});

describe('a range of bytes', () => {
  const of = { sizeBytes: 100, tag: 'a' };
  it.each([
    ['bytes=0-', undefined, { start: 0, end: 100 }],
    ['bytes=10-19', undefined, { start: 10, end: 20 }],
    ['bytes=-5', undefined, { start: 95, end: 100 }],
    ['bytes=90-500', undefined, { start: 90, end: 100 }],
    ['bytes=100-', undefined, 'beyond'],
    ['bytes=10-5', undefined, null],
    ['bytes=0-1,5-6', undefined, null],
    ['bytes=-', undefined, null],
    [undefined, undefined, null],
    ['bytes=5-', '"a"', { start: 5, end: 100 }],
    ['bytes=5-', '"b"', null],
  ])('%s under %s', (asked, ifRange, wanted) => expect(byteRange(asked, ifRange, of)).toEqual(wanted));
});
