import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { CoreError } from '../errors.ts';
import type { LedgerRecord } from './ledger-table.ts';
import { frameFromRow, LEDGER_COLUMNS, ledgerRow, readCsv, writeCsv } from './ledger-table.ts';
import { readVoTable, writeVoTable } from './votable.ts';

const record: LedgerRecord = {
  kind: 'light',
  rigName: 'Heron, the long reflector',
  cameraName: 'Heron camera',
  filterName: 'Ha',
  startUtcMs: Date.parse('2026-10-10T12:34:56.789Z'),
  exposureSec: 300,
  gain: 100,
  offset: 30,
  binning: 1,
  sensorC: -10,
  projectName: '=HYPERLINK("x")',
  panelName: 'A "quoted", <tagged> & long name',
  raDeg: 324.12,
  decDeg: -54.557,
  positionAngleDeg: null,
  creditShare: 1,
  verdict: 'accepted',
  verdictReason: 'looked at',
  observerName: 'Ruan Aldous',
  dataSha256: 'ab'.repeat(32),
  pixelsSha256: 'cd'.repeat(32),
  headerKey: null,
  isSimulated: true,
};

describe('the ledger as a table', () => {
  it.each([
    ['CSV', (rows: readonly Record<string, string>[]) => readCsv(writeCsv(LEDGER_COLUMNS, rows))],
    ['VOTable', (rows: readonly Record<string, string>[]) => readVoTable(writeVoTable('ledger', LEDGER_COLUMNS, rows))],
  ])('comes back unchanged through %s', (_, roundTrip) =>
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ unit: 'grapheme-ascii', maxLength: 30 }).map((text) => text.trim()),
          {
            minLength: 1,
            maxLength: 5,
          },
        ),
        (names) => {
          const rows = names.map((name) => ledgerRow({ ...record, projectName: name || null }));
          expect(roundTrip(rows)).toEqual(rows);
        },
      ),
    ),
  );

  it('keeps spreadsheets from running a cell, and leaves negative numbers alone', () => {
    const csv = writeCsv(LEDGER_COLUMNS, [ledgerRow(record)]);
    expect(csv).toContain(`"'=HYPERLINK(""x"")"`);
    expect(csv).toContain(',-54.557,');
  });

  it('says which sky and which clock its columns are in', () => {
    const xml = writeVoTable('ledger', LEDGER_COLUMNS, [ledgerRow(record)]);
    const referring = (column: string) => new RegExp(`<FIELD[^>]*name="${column}"[^>]*>`).exec(xml)?.[0];
    expect(xml).toMatch(/<COOSYS ID="sky" system="ICRS"/);
    expect(xml).toMatch(/<TIMESYS ID="time" timescale="UTC" refposition="TOPOCENTER"/);
    expect(referring('ra_deg')).toMatch(/ref="sky"/);
    expect(referring('start_utc')).toMatch(/ref="time"/);
    expect(referring('rig')).not.toMatch(/ref=/);
  });

  it('is read as frames', () => {
    const facts = frameFromRow(ledgerRow(record), 1);
    expect(facts).toMatchObject({
      kind: 'light',
      startUtcMs: record.startUtcMs,
      startStepMs: 1,
      exposureSec: 300,
      gain: 100,
      centre: { raDeg: 324.12, decDeg: -54.557 },
      objectName: record.panelName,
    });
  });

  it.each([
    [{ start_utc: '' }, /start_utc is missing/],
    [{ start_utc: 'yesterday' }, /no moment/],
    [{ exposure_s: 'long' }, /exposure_s "long" is no number/],
    [{ dec_deg: '' }, /both ra_deg and dec_deg or neither/],
    [{ kind: 'selfie' }, /none of light/],
  ])('names the row and what is wrong: %j', (change, words) => {
    const row: Record<string, string> = { ...ledgerRow(record), ...change };
    expect(() => frameFromRow(row, 7)).toThrow(words);
    expect(() => frameFromRow(row, 7)).toThrow(/^Row 7/);
  });

  it.each(['', 'one column\nvalue', 'a,b\n"1,2'])('refuses what is no table: %j', (text) =>
    expect(() => readCsv(text)).toThrow(CoreError),
  );

  it.each(['', '<html/>', '<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><VOTABLE/>', '<VOTABLE><RESOURCE/>'])(
    'refuses what is no VOTable: %j',
    (text) => expect(() => readVoTable(text)).toThrow(CoreError),
  );
});

describe('a VOTable that an independent library wrote', () => {
  const read = (serialization: string) =>
    readVoTable(readFileSync(new URL(`../../fixtures/ledger-${serialization}.xml`, import.meta.url), 'utf8'));
  const row = (minute: string, kind: string, cells: Record<string, string>) => ({
    start_utc: `2026-10-11T10:${minute}:00.000Z`,
    kind,
    ...cells,
  });

  it.each(['tabledata', 'binary', 'binary2'])('is read from %s, with nothing where nothing is', (serialization) =>
    expect(read(serialization).map((cells) => ({ ...cells, exposure_s: Number(cells.exposure_s) }))).toEqual([
      row('00', 'light', { gain: '100', sensor_c: '-10.25', observer: 'Zoë Marsh', exposure_s: 300 as never }),
      row('05', 'flat', { gain: '', sensor_c: '', observer: '', exposure_s: 2.5 as never }),
      row('10', 'light', { gain: '-5', sensor_c: '-9.5', observer: 'R. Aldous', exposure_s: 120 as never }),
    ]),
  );

  it.each([
    ['a stream cut off within a row', (text: string) => text.replace(/[A-Za-z0-9+/=]{30}\s*<\/STREAM>/, '</STREAM>')],
    ['a stream that is no base64', (text: string) => text.replace(/<STREAM[^>]*>/, '$&?!')],
    ['a type that no ledger has', (text: string) => text.replace('datatype="double"', 'datatype="doubleComplex"')],
    ['a text longer than the stream', (text: string) => text.replace(/arraysize="\d+"/, 'arraysize="99999999"')],
  ])('is refused in words with %s', (_what, broken) => {
    const text = readFileSync(new URL('../../fixtures/ledger-binary2.xml', import.meta.url), 'utf8');
    expect(broken(text)).not.toBe(text);
    expect(() => readVoTable(broken(text))).toThrow(expect.objectContaining({ code: 'TABLE_UNREADABLE' }));
  });
});
