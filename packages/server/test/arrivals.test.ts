// Files that have come are measured without anybody's looking, and their exposures judged by the starlight in them.
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { FrameFigures } from '@meridiem/contract';
import { createArrivals } from '../src/modules/frames/arrivals.ts';
import { createMeasuring } from '../src/modules/frames/measuring.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const BYTES = 64;
const USUAL_MAG = 22.1;
let test: TestApp;
let folder: string;
/** The newest exposures of one goal, oldest first. */
let ids: string[];

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'arrivals-'));
  await mkdir(join(folder, 'Wren'));
  test = await createTestApp({ exposures: 700 });
  const rows = await test.database.rows<{ id: string }>(
    `SELECT r.exposure_id AS id FROM ledger_rows r JOIN projects p ON p.id = r.project_id WHERE p.judging AND r.verdict = 'accepted' AND r.goal_id =
       (SELECT t.goal_id FROM goal_totals t JOIN goals g ON g.id = t.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects j ON j.id = l.project_id WHERE j.judging ORDER BY t.exposure_count DESC LIMIT 1)
     ORDER BY r.start_utc DESC LIMIT 14`,
  );
  ids = rows.map(({ id }) => id).reverse();
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

async function arrives(id: string, stem: string, sizeBytes = BYTES): Promise<void> {
  const name = `Wren/${stem}.fits`;
  await writeFile(join(folder, name), Buffer.alloc(BYTES));
  await test.ownerDatabase.rows(
    `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256, copied) SELECT id, observatory_id, $2, $3, decode(repeat('00', 32), 'hex'), clock_timestamp() FROM exposures WHERE id = $1`,
    [id, name, sizeBytes],
  );
}

/** Its number, and what its pixels will say: thousandths of a magnitude. */
const named = (number: number, mag: number): string => `${number}_${Math.round(1000 * mag)}`;

/** As if the pixels of a file said what its name does. */
const figuresOf = (mag: number): FrameFigures =>
  ({
    ...{ widthPx: 10, heightPx: 10, background: 300, noise: 5, starCount: 40, halfFluxRadiusPx: 2, elongation: 1.1 },
    histogram: { to: 65_535, counts: [100], saturatedShare: 0 },
    trails: [],
    ...{ pointing: null, notSolved: 'no place is known', zeroPoint: { mag, scatterMag: 0.02, starCount: 30 } },
  }) as unknown as FrameFigures;

async function settle(asked: string[] = []): Promise<string[]> {
  const measuring = createMeasuring(
    test.database,
    {
      draw: () => Promise.reject(new Error('nothing is drawn')),
      measure: async ({ path }, isPageWaiting) => {
        const stem = basename(path, '.fits');
        asked.push(`${stem}${isPageWaiting ? ', waited for' : ''}`);
        if (stem === 'no-picture') throw new Error('no picture');
        return figuresOf(Number(stem.split('_')[1]) / 1000);
      },
    },
    { deepStarsFile: null, solverProgram: null },
  );
  const failed: unknown[] = [];
  const arrivals = createArrivals({ database: test.database, measuring, framesFolder: folder, warn: (error) => failed.push(error) }); // prettier-ignore
  await arrivals.settled();
  arrivals.come();
  await arrivals.settled();
  await arrivals.stop();
  expect(failed).toEqual([]);
  return asked;
}

const ruledOf = (id: string) =>
  test.database.one<{ verdict: string; reason: string }>(
    `SELECT verdict, reason FROM verdicts WHERE exposure_id = $1 AND origin = 'rule' ORDER BY seq DESC LIMIT 1`,
    [id],
  );

describe('files that have come', () => {
  it('are measured once, the newest first, behind what a page waits for', async () => {
    const steady = ids.slice(0, 12);
    for (const [i, id] of steady.entries()) await arrives(id, named(i, USUAL_MAG + 0.004 * (i % 3)));
    const asked = await settle();
    expect(asked.map((name) => Number(name.split('_')[0]))).toEqual(steady.map((_, i) => steady.length - 1 - i));
    expect(asked.filter((name) => name.includes('waited'))).toEqual([]);
    expect(await settle()).toEqual([]);
  });

  it('have their exposure rejected where a sixth of the starlight is missing, and left where it is not', async () => {
    await arrives(ids[12], named(12, USUAL_MAG - 0.2));
    await arrives(ids[13], named(13, USUAL_MAG));
    await settle();
    expect(await ruledOf(ids[12])).toEqual({ verdict: 'rejected', reason: 'cloud' });
    expect(await ruledOf(ids[13])).toEqual({ verdict: 'accepted', reason: 'within limits' });
  });

  it('that are no picture, or not whole, are passed over once', async () => {
    const rows = await test.database.rows<{ id: string }>(
      `SELECT e.id FROM exposures e WHERE NOT EXISTS (SELECT FROM frames f WHERE f.exposure_id = e.id) LIMIT 2`,
    );
    await arrives(rows[0].id, 'no-picture');
    await arrives(rows[1].id, 'cut-off', BYTES + 1);
    expect(await settle()).toEqual(['no-picture']);
  });
});
