import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ImportedFile, ImportPreview } from '@meridiem/contract';
import {
  addImportFiles,
  addImportHashes,
  applyImport,
  beginImport,
  discardImport,
  exportGoals,
  exportLedger,
  exportTargets,
  judgeExposures,
  listExposures,
  listImports,
  matchByHand,
  promoteTryOut,
  readProject,
  readImport,
  undoLast,
  teachFilterName,
} from '@meridiem/contract';
import { frameFacts, frameFromRow, readCsv, readFitsHeaders, readVoTable } from '@meridiem/core';
import { servedDifferences } from './recount.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let panel: { id: string; raDeg: number; decDeg: number; angle: number; projectName: string; cameraName: string };
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const found = await test.database.one<typeof panel>(
    `SELECT l.id, w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", w.position_angle_deg AS angle, p.name AS "projectName", c.serial AS "cameraName"
     FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN panel_pointings w ON w.panel_id = l.id
     JOIN rig_revisions v ON v.rig_id = p.rig_id JOIN cameras c ON c.id = v.camera_id JOIN people o ON o.id = p.owner_id
     JOIN recipe_revisions x ON x.id = g.recipe_revision_id JOIN recipes r ON r.id = x.recipe_id JOIN filters f ON f.id = r.filter_id
     WHERE f.letter = 'L' AND o.name = 'Ruan Aldous' AND p.state = 'granted' ORDER BY p.name, l.position LIMIT 1`,
  );
  panel = found!;
}, 60_000);
afterAll(() => test.close());

const FIXTURES = new URL('../../core/fixtures/frames/', import.meta.url);

/** A frame of the fixtures, pointed at the panel. */
function frame(name: string, change: Partial<NonNullable<ImportedFile['facts']>> = {}): ImportedFile {
  const bytes = readFileSync(new URL(name, FIXTURES));
  const facts = frameFacts(readFitsHeaders(bytes), { timeZone: 'Australia/Adelaide' })!;
  const data = bytes.subarray(facts.dataStart, facts.dataStart + facts.dataLength);
  return {
    name,
    sizeBytes: bytes.length,
    facts: {
      ...facts,
      doubts: [...facts.doubts],
      centre: { raDeg: panel.raDeg, decDeg: panel.decDeg },
      cameraName: panel.cameraName,
      telescopeName: null,
      ...change,
    },
    refused: null,
    dataSha256: createHash('sha256').update(data).digest('hex'),
    pixelsSha256: null,
    headerKey: null,
    verdict: null,
  };
}

const namesAt = (utcSec: number) =>
  test.database.one(
    `SELECT encode(data_sha256, 'hex') AS data, encode(pixels_sha256, 'hex') AS pixels FROM exposures WHERE start_utc = to_timestamp($1)`,
    [utcSec],
  );

async function begun(who: string, files: readonly ImportedFile[]): Promise<string> {
  const { body } = await test.call(who, beginImport, { body: { source: 'a folder' } });
  const added = await test.call(who, addImportFiles, { params: { id: body.id }, body: { files: [...files] } });
  expect(added.status).toBe(200);
  return body.id;
}
const previewOf = async (who: string, id: string): Promise<ImportPreview> =>
  (await test.call(who, readImport, { params: { id } })).body;
const apply = async (who: string, id: string) => {
  const { body, ...answer } = await test.call(who, applyImport, { params: { id } });
  return { ...answer, body: body.written! };
};
const counted = async () => (await test.call('ilse', listExposures)).body.totals;
const sum = ({ accepted, undecided, rejected }: Awaited<ReturnType<typeof counted>>) => accepted + undecided + rejected;

/** Two exposures of two minutes can’t begin in one second. */
const THIRD = { startUtcMs: Date.parse('2026-10-10T12:43:00Z') };

describe('an import', () => {
  it('shows what would happen before anything is written, then writes it, and one undo takes it back', async () => {
    const before = sum(await counted());
    const id = await begun('ruan', [frame('w-plain.fits'), frame('w-second-a.fits'), frame('w-second-b.fits', THIRD)]);
    const { rows } = await previewOf('ruan', id);
    expect(rows.map((row) => [row.state, row.projectName])).toEqual(
      Array.from({ length: 3 }, () => ['ready', panel.projectName]),
    );
    expect(rows[0].reasons.join()).toMatch(/covers 100 %/);
    expect(sum(await counted())).toBe(before);
    expect((await apply('ruan', id)).body).toEqual({ added: 3, known: 0, left: 0 });
    expect(sum(await counted())).toBe(before + 3);
    expect((await apply('ruan', id)).error.message).toMatch(/applied already/);
    expect(await servedDifferences(test.database)).toEqual([]);
    await test.call('ruan', undoLast);
    expect(sum(await counted())).toBe(before);
    expect(await servedDifferences(test.database)).toEqual([]);
    expect((await test.call('ruan', listImports)).body.imports[0].state).toBe('undone');
  });

  it('takes an import that was taken back in again, as the same exposures', async () => {
    const before = sum(await counted());
    const exposures = await test.database.one<{ count: number }>('SELECT count(*)::int AS count FROM exposures');
    const id = await begun('ruan', [frame('w-plain.fits'), frame('w-second-a.fits'), frame('w-second-b.fits', THIRD)]);
    expect((await apply('ruan', id)).body.added).toBe(3);
    expect(sum(await counted())).toBe(before + 3);
    expect(await test.database.one('SELECT count(*)::int AS count FROM exposures')).toEqual(exposures);
  });

  it('knows the same frame behind a new header, and asks about the same data at another moment', async () => {
    const moved = frame('w-new-header.fits', { startUtcMs: Date.parse('2026-10-01T12:00:00Z') });
    const before = sum(await counted());
    const id = await begun('ruan', [moved, frame('w-new-header.fits'), frame('w-plain.fits')]);
    const { rows } = await previewOf('ruan', id);
    expect(rows.map((row) => row.state)).toEqual(['look', 'known', 'known']);
    expect(rows[0].reasons.join()).toMatch(/same data: is its start wrong/);
    expect((await apply('ruan', id)).body).toEqual({ added: 1, known: 2, left: 0 });
    // In the ledger, for a person to look at; counting for nothing.
    expect(sum(await counted())).toBe(before + 1);
    const [{ credit }] = await test.ownerDatabase.rows<{ credit: number }>(
      `SELECT coalesce(sum(a.credit_share), 0)::float8 AS credit FROM import_files f JOIN attributions a ON a.exposure_id = f.exposure_id
       WHERE f.import_id = $1 AND f.outcome = 'added' AND a.withdrawn IS NULL`,
      [id],
    );
    expect(credit).toBe(0);
    await test.call('ruan', undoLast);
  });

  it('takes one moment of one camera for one exposure, whatever was done to the file', async () => {
    const one = { ...frame('w-plain.fits', { startUtcMs: 1_790_000_000_000 }), dataSha256: 'a'.repeat(64) };
    const two = { ...one, name: 'other.fits', dataSha256: 'b'.repeat(64) };
    const id = await begun('ruan', [one, two, { ...one, name: 'copy.fits' }]);
    expect((await apply('ruan', id)).body).toMatchObject({ added: 1, known: 2 });
  });

  it('learns hashes in the background, and the ledger learns them for what it knew by header', async () => {
    const plain = { ...frame('w-plain.fits', { startUtcMs: 1_791_000_000_000 }), dataSha256: null };
    await apply('ruan', await begun('ruan', [plain]));
    const { body } = await test.call('ruan', beginImport, { body: { source: 'again' } });
    const added = await test.call('ruan', addImportFiles, { params: { id: body.id }, body: { files: [plain] } });
    const hashes = [{ fileId: added.body.ids[0], dataSha256: 'c'.repeat(64), pixelsSha256: 'e'.repeat(64) }];
    await test.call('ruan', addImportHashes, { params: { id: body.id }, body: { hashes } });
    expect((await apply('ruan', body.id)).body.known).toBe(1);
    expect(await namesAt(1_791_000_000)).toEqual({ data: 'c'.repeat(64), pixels: 'e'.repeat(64) });
  });

  it('learns of pixels only with the data it knows: other bytes prove nothing', async () => {
    const short = { startUtcMs: 1_791_500_000_000, exposureSec: 0.5, kind: 'flat' as const };
    const [a, b, c] = ['a1', 'b2', 'c3'].map((pair) => pair.repeat(32));
    const once = { ...frame('w-plain.fits', short), dataSha256: a };
    const imported = async (over: Partial<ImportedFile>) =>
      (await apply('ruan', await begun('ruan', [{ ...once, ...over }]))).body;
    expect(await imported({})).toMatchObject({ added: 1, known: 0 });
    const long = { ...once.facts!, startUtcMs: 1_791_600_000_000, exposureSec: 120 };
    await imported({ facts: long, dataSha256: b });
    await imported({ facts: long, dataSha256: c, pixelsSha256: c });
    expect(await namesAt(1_791_600_000)).toEqual({ data: b, pixels: null });
    expect(await imported({ pixelsSha256: a })).toMatchObject({ added: 0, known: 1 });
    expect(await namesAt(1_791_500_000)).toEqual({ data: a, pixels: a });
    // Packed since: other bytes, the same pixels. Then another flat within the second.
    expect(await imported({ dataSha256: 'd4'.repeat(32), pixelsSha256: a })).toMatchObject({ added: 0, known: 1 });
    expect(await imported({ name: 'next.fits', dataSha256: 'e5'.repeat(32), pixelsSha256: b })).toMatchObject({
      added: 1,
    });
  });

  it('asks for a look, keeps without credit, asks for a filter, and refuses with the reason', async () => {
    const at = (i: number) => 1_792_000_000_000 + i * 600_000;
    const shifted = { centre: { raDeg: panel.raDeg, decDeg: panel.decDeg + 0.08 }, startUtcMs: at(1) };
    const files: ImportedFile[] = [
      { ...frame('w-plain.fits', shifted), dataSha256: null },
      { ...frame('w-plain.fits', { filterName: 'SII', startUtcMs: at(2) }), dataSha256: null },
      { ...frame('w-filter-blank.fits', { startUtcMs: at(3) }), dataSha256: null },
      { ...frame('w-plain.fits', { startUtcMs: null }), dataSha256: null },
      {
        name: 'empty.fits',
        sizeBytes: 0,
        facts: null,
        refused: 'The file is empty',
        dataSha256: null,
        pixelsSha256: null,
        headerKey: null,
        verdict: null,
      },
    ];
    const id = await begun('ruan', files);
    const { rows, filters } = await previewOf('ruan', id);
    expect(rows.map((row) => row.state)).toEqual(['look', 'uncredited', 'choose', 'refused', 'refused']);
    expect(rows[4].reasons).toEqual(['The file is empty']);
    const hand = (fileIds: string[], choice: object) =>
      test.call('ruan', matchByHand, { params: { id }, body: { fileIds, ...choice } });
    await hand([rows[0].id], { panelId: panel.id });
    await hand([rows[2].id], { filterId: filters.find(({ letter }) => letter === 'L')!.id });
    expect((await previewOf('ruan', id)).rows.map((row) => row.state).slice(0, 3)).toEqual([
      'ready',
      'uncredited',
      'ready',
    ]);
    expect((await apply('ruan', id)).body).toEqual({ added: 3, known: 0, left: 2 });
    expect(await servedDifferences(test.database)).toEqual([]);
  });

  it('keeps out what is no single exposure, or was taken elsewhere, and lets the others in', async () => {
    const at = (i: number) => 1_795_000_000_000 + i * 600_000;
    const file = (i: number, over: object) => ({
      ...frame('w-plain.fits', { startUtcMs: at(i), ...over }),
      dataSha256: null,
    });
    const far = { latitudeDeg: 28.7, longitudeDeg: -17.9 };
    const stacked = { ...file(3, {}), name: 'NGC 7090 stacked.fits' };
    const id = await begun('ruan', [
      file(0, {}),
      file(1, { combined: 'NCOMBINE 20: it is made of several exposures' }),
      file(2, { site: far }),
      stacked,
    ]);
    const { rows } = await previewOf('ruan', id);
    expect(rows.map((row) => row.state)).toEqual(['ready', 'refused', 'choose', 'refused']);
    expect(rows[2].reasons.join()).toMatch(/taken \d+ km from here/);
    expect((await apply('ruan', id)).body).toEqual({ added: 1, known: 0, left: 3 });
    await test.call('ruan', undoLast);
  });

  it('reads a filter’s name as a coordinator has taught it, and nobody else can teach', async () => {
    const named = {
      ...frame('w-plain.fits', { startUtcMs: 1_796_000_000_000, filterName: 'Ha 5nm 50mm' }),
      dataSha256: null,
    };
    const id = await begun('ruan', [named]);
    const { rows, filters } = await previewOf('ruan', id);
    expect([rows[0].state, rows[0].filterName]).toEqual(['choose', 'Ha 5nm 50mm']);
    const body = { name: 'Ha 5nm 50mm', filterId: filters.find(({ letter }) => letter === 'Ha')!.id };
    expect((await test.call('ruan', teachFilterName, { body })).status).toBe(403);
    expect((await test.call('ilse', teachFilterName, { body })).status).toBe(200);
    expect((await previewOf('ruan', id)).rows[0]).toMatchObject({ filterId: body.filterId });
    await test.call('ilse', teachFilterName, { body: { ...body, filterId: null } });
    expect((await previewOf('ruan', id)).rows[0].state).toBe('choose');
    await test.call('ruan', discardImport, { params: { id } });
  });

  it('can’t be kept from the ledger by a hash that somebody else has claimed before', async () => {
    const dataSha256 = 'd'.repeat(64);
    const claimed = { ...frame('w-plain.fits', { startUtcMs: 1_797_000_000_000 }), dataSha256 };
    await apply('mirela', await begun('mirela', [claimed]));
    const mine = { ...frame('w-plain.fits', { startUtcMs: 1_797_000_600_000 }), dataSha256 };
    const id = await begun('ruan', [mine]);
    const [row] = (await previewOf('ruan', id)).rows;
    expect(row.state).toBe('look');
    await test.call('ruan', matchByHand, { params: { id }, body: { fileIds: [row.id], panelId: panel.id } });
    expect((await apply('ruan', id)).body).toEqual({ added: 1, known: 0, left: 0 });
    await test.call('ruan', undoLast);
  });

  it('credits a member’s frames to own projects only', async () => {
    const id = await begun('mirela', [
      { ...frame('w-plain.fits', { startUtcMs: 1_793_000_000_000 }), dataSha256: null },
    ]);
    const [row] = (await previewOf('mirela', id)).rows;
    expect(row.panelId).toBeNull();
    const body = { fileIds: [row.id], panelId: panel.id };
    expect((await test.call('mirela', matchByHand, { params: { id }, body })).status).toBe(422);
    expect((await test.call('jonah', readImport, { params: { id } })).status).toBe(404);
    expect((await test.call('mirela', discardImport, { params: { id } })).status).toBe(200);
  });

  it('credits no flat that a later file of the same moment calls a light', async () => {
    const taken = (kind: 'flat' | 'light') => ({
      ...frame('w-plain.fits', { kind, startUtcMs: 1_793_200_000_000 }),
      dataSha256: null,
    });
    await apply('ruan', await begun('ruan', [taken('flat')]));
    await test.call('ruan', undoLast);
    const id = await begun('ruan', [taken('light')]);
    expect((await apply('ruan', id)).body).toEqual({ added: 1, known: 0, left: 0 });
    const credits = await test.database.rows(
      `SELECT a.id FROM import_files f JOIN attributions a ON a.exposure_id = f.exposure_id WHERE f.import_id = $1 AND a.withdrawn IS NULL`,
      [id],
    );
    expect(credits).toEqual([]);
    await test.call('ruan', undoLast);
    expect(await servedDifferences(test.database)).toEqual([]);
  });

  it('marks frames of no real sky, and credits none of them beside real devices', async () => {
    const made = (hours: number) => ({
      ...frame('w-plain.fits', { isSimulated: true, startUtcMs: 1_793_100_000_000 + hours * 3_600_000 }),
      dataSha256: null,
    });
    const stateOf = async (id: string) => (await previewOf('ruan', id)).rows[0].state;
    const alone = await begun('ruan', [made(0)]);
    expect(await stateOf(alone)).toBe('ready');
    await test.database.rows(`UPDATE rigs SET devices = 'address', devices_url = 'http://10.0.0.1' WHERE id = (SELECT min(id::text)::uuid FROM rigs)`); // prettier-ignore
    expect(await stateOf(alone)).toBe('uncredited');
    const id = await begun('ruan', [made(1)]);
    expect((await previewOf('ruan', id)).rows[0].reasons.join()).toMatch(/simulated observatory: never credited/);
    expect((await apply('ruan', id)).body).toEqual({ added: 1, known: 0, left: 0 });
    const stored = await test.database.rows(
      `SELECT e.simulated, a.goal_id, a.credit_share FROM import_files f JOIN exposures e ON e.id = f.exposure_id JOIN attributions a ON a.exposure_id = e.id WHERE f.import_id = $1`,
      [id],
    );
    expect(stored).toEqual([{ simulated: true, goal_id: null, credit_share: 0 }]);
    const exported = readCsv((await test.call('ruan', exportLedger, { query: { format: 'csv' } })).body);
    expect(exported.filter(({ simulated }) => simulated === 'yes').length).toBeGreaterThan(0);
    await test.call('ruan', undoLast);
    await test.call('ruan', discardImport, { params: { id: alone } });
    await test.database.rows(`UPDATE rigs SET devices = 'none', devices_url = NULL WHERE devices = 'address'`);
    expect(await servedDifferences(test.database)).toEqual([]);
  });

  it('is not taken back over a later verdict by hand', async () => {
    const id = await begun('ruan', [{ ...frame('w-plain.fits', { startUtcMs: 1_794_000_000_000 }), dataSha256: null }]);
    await apply('ruan', id);
    const [added] = await test.database.rows<{ id: string }>(
      'SELECT exposure_id AS id FROM import_files WHERE import_id = $1',
      [id],
    );
    await test.call('ilse', judgeExposures, {
      body: { exposureIds: [added.id], verdict: 'rejected', reason: 'trail' },
    });
    expect((await test.call('ruan', undoLast)).error.message).toMatch(/judged by hand since/);
  });

  it('brings verdicts along from a table, and takes them back with it', async () => {
    const judged = { ...frame('w-plain.fits', { startUtcMs: 1_795_000_000_000 }), dataSha256: null };
    const id = await begun('ruan', [{ ...judged, verdict: 'rejected' }]);
    const before = await counted();
    await apply('ruan', id);
    expect((await counted()).rejected).toBe(before.rejected + 1);
    expect((await test.call('ruan', undoLast)).status).toBe(200);
    expect(await counted()).toEqual(before);
    expect(await servedDifferences(test.database)).toEqual([]);
  });

  it('stores the sky that the exposures were taken under', async () => {
    const rows = await test.database.rows<{ airmass: number; rate: number }>(
      `SELECT m.airmass, m.rate_predicted AS rate FROM measurements m JOIN import_files f ON f.exposure_id = m.exposure_id WHERE m.airmass IS NOT NULL`,
    );
    expect(rows.length).toBeGreaterThan(0);
    for (const { airmass, rate } of rows) {
      expect(airmass).toBeGreaterThanOrEqual(1);
      expect(rate).toBeGreaterThan(0);
    }
  });
});

describe('exports', () => {
  const asFiles = (rows: readonly Record<string, string>[]): ImportedFile[] =>
    rows.map((row, i) => ({
      name: `row ${i + 1}`,
      sizeBytes: 0,
      facts: { ...frameFromRow(row, i + 1), doubts: [] },
      refused: null,
      dataSha256: row.data_sha256 || null,
      pixelsSha256: row.pixels_sha256 || null,
      headerKey: row.header_key || null,
      verdict: (row.verdict || null) as ImportedFile['verdict'],
    }));

  it.each([
    ['csv', readCsv],
    ['votable', readVoTable],
  ] as const)('of the ledger as %s hold every row, and are all known when imported again', async (format, read) => {
    const { body } = await test.call('ilse', exportLedger, { query: { format } });
    const rows = read(body);
    expect(rows.filter(({ kind }) => kind === 'light')).toHaveLength(sum(await counted()));
    const id = await begun('ilse', asFiles(rows.slice(0, 300)));
    const states = (await previewOf('ilse', id)).rows.map((row) => row.state);
    expect([...new Set(states)]).toEqual(['known']);
  });

  it('of goals and targets hold what the pages show', async () => {
    const goals = readCsv((await test.call('ilse', exportGoals)).body);
    const stored = await test.database.one<{ count: number }>('SELECT count(*)::int AS count FROM goals');
    expect(goals).toHaveLength(stored!.count);
    const targets = readVoTable((await test.call('sam', exportTargets, { query: { format: 'votable' } })).body);
    expect(targets.some((row) => row.panel !== '' && row.ra_deg !== '')).toBe(true);
  });
});

describe('a try-out', () => {
  const START_UTC_MS = 1_700_000_000_000;
  const taken = async () =>
    (await test.call('ruan', listExposures, { query: { limit: 500 } })).body.rows.filter(
      ({ startUtcMs }) => startUtcMs >= START_UTC_MS && startUtcMs < START_UTC_MS + 3_600_000,
    );

  it('becomes a project with its panel, its goals and its credit, and is taken back whole', async () => {
    const recipe = await test.database.one<{ exposureSec: number; gain: number; binning: number }>(
      `SELECT v.exposure_s AS "exposureSec", m.gain, v.binning FROM recipes r JOIN recipe_revisions v ON v.recipe_id = r.id
       JOIN camera_mode_revisions m ON m.camera_mode_id = v.camera_mode_id AND upper_inf(m.during) JOIN filters f ON f.id = r.filter_id JOIN rig_revisions w ON w.rig_id = r.rig_id AND upper_inf(w.during) JOIN cameras c ON c.id = w.camera_id
       WHERE f.letter = 'L' AND c.serial = $1 ORDER BY v.seq DESC LIMIT 1`,
      [panel.cameraName],
    );
    const centre = { raDeg: (panel.raDeg + 40) % 360, decDeg: panel.decDeg };
    const files = ['1', '2', '3'].map((digit, i) => ({
      ...frame('w-plain.fits', { centre, startUtcMs: START_UTC_MS + i * 600_000, positionAngleDeg: 30, ...recipe! }),
      name: `${digit}.fits`,
      dataSha256: digit.repeat(64),
    }));
    await apply('ruan', await begun('ruan', files));
    const rows = await taken();
    expect(rows.map(({ projectId }) => projectId)).toEqual([null, null, null]);
    const exposureIds = rows.map(({ id }) => id);
    const promote = (ids: string[], name = 'From a try-out') =>
      test.call('ruan', promoteTryOut, { body: { exposureIds: ids, name } });
    const { body } = await promote(exposureIds);
    expect(body.credited).toBe(3);
    const project = (await test.call('ruan', readProject, { params: { id: body.id } })).body;
    expect(project).toMatchObject({ name: 'From a try-out', state: 'draft' });
    const [made] = project.panels;
    expect(made).toMatchObject({ ...centre, positionAngleDeg: 30 });
    expect(made.goals.map(({ wanted, filterLetter }) => [wanted, filterLetter])).toEqual([[3, 'L']]);
    expect(made.goals[0].tally.accepted + made.goals[0].tally.undecided).toBe(3);
    expect(await servedDifferences(test.database)).toEqual([]);

    expect((await promote(exposureIds)).error.message).toMatch(/3 of these exposures belong to a project already/);
    await test.call('ruan', undoLast);
    expect((await taken()).map(({ projectId }) => projectId)).toEqual([null, null, null]);
    expect((await test.call('ruan', readProject, { params: { id: body.id } })).body.state).toBe('retired');
    expect(await servedDifferences(test.database)).toEqual([]);
  });
});
