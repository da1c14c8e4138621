import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { exportLedger } from '@meridiem/contract';
import { LEDGER_COLUMNS, readCsv, writeCsv } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let folder: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
  folder = await mkdtemp(join(tmpdir(), 'meridiem frames '));
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

async function run(...args: string[]): Promise<{ code: number; said: string }> {
  const { MERIDIEM_CLOCK: _clock, NODE_OPTIONS: _options, ...rest } = process.env;
  const env = {
    ...rest,
    MERIDIEM_DATABASE_URL: test.appUrl,
    MERIDIEM_OWNER_DATABASE_URL: test.ownerUrl,
    MERIDIEM_SESSION_SECRET: 'x'.repeat(40),
    MERIDIEM_RUNNER_KEY: 'runner-key-of-the-tests-0123456789',
  };
  const main = new URL('../src/import-files.ts', import.meta.url).pathname;
  const command = promisify(execFile)(
    process.execPath,
    ['--conditions', '@meridiem/source', '--import', 'tsx', decodeURIComponent(main), ...args],
    { env },
  );
  return command.then(
    ({ stdout }) => ({ code: 0, said: stdout }),
    (error: { code: number; stderr: string }) => ({ code: error.code, said: error.stderr }),
  );
}
const exposures = async (): Promise<number> =>
  (await test.database.one<{ count: number }>('SELECT count(*)::int AS count FROM exposures'))!.count;

describe('importing by path', () => {
  it('shows first, writes when told to, and knows its own export again', async () => {
    const table = (await test.call('ilse', exportLedger, { query: { format: 'csv' } })).body as string;
    await writeFile(join(folder, 'ledger.csv'), table);
    const [row] = readCsv(table);
    const earlier = Object.entries(row).map(([name, value]) =>
      name === 'header_key' ? [name, ''] : [name, value.replace(/^2026-/, '2024-')],
    );
    await writeFile(join(folder, 'one.csv'), writeCsv(LEDGER_COLUMNS, [Object.fromEntries(earlier) as typeof row]));
    await writeFile(join(folder, 'notes.fits'), 'no picture');
    const before = await exposures();

    const shown = await run(folder);
    expect(shown).toMatchObject({
      code: 0,
      said: expect.stringMatching(/60 in the ledger already[^]*Nothing is written yet/),
    });
    expect(shown.said).toMatch(/notes\.fits: This is no FITS file/);
    expect(await exposures()).toBe(before);

    const written = await run('--as', 'ilse@saltbush.example', '--write', folder);
    expect(written).toMatchObject({ code: 0, said: expect.stringMatching(/Imported 1; 60 were known; 1 left out/) });
    expect(await exposures()).toBe(before + 1);
  }, 60_000);

  it('refuses guests, strangers and folders without files', async () => {
    expect(await run('--as', 'sam@saltbush.example', folder)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/no member who may import/),
    });
    expect(await run(join(folder, 'nowhere'))).toMatchObject({ code: 1 });
    expect(await run()).toMatchObject({ code: 1, said: expect.stringMatching(/which files or folders/) });
  }, 60_000);
});
