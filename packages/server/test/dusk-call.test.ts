// Go, wait or no-go at the cut-off hour: once a night, to the coordinators, however many servers look.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { NightForecast } from '@meridiem/contract';
import { listNotices } from '@meridiem/contract';
import { createDuskCalls, duskWords } from '../src/modules/forecast/dusk-call.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const outlook: NightForecast = {
  ...{ nightDate: '2026-10-11', call: 'go', hoursClear: 7.5, hoursDark: 9.13, agreeing: 3, hours: [] },
  sources: ['a', 'b', 'c'].map((source) => ({ source, issuedUtcMs: 0, hoursClear: 7.5 })),
};
let test: TestApp;
let cutOffUtcMs: number;
beforeAll(async () => {
  test = await createTestApp({ exposures: 0 });
  const row = await test.database.one<{ ms: number }>(
    `SELECT (extract(epoch FROM (date '2026-10-11' + cut_off_clock_min * interval '1 minute') AT TIME ZONE time_zone) * 1000)::float8 AS ms FROM observatories LIMIT 1`,
  );
  cutOffUtcMs = row!.ms;
}, 60_000);
afterAll(() => test.close());
beforeEach(async () => {
  await test.ownerDatabase.rows('DELETE FROM dusk_calls');
  await test.ownerDatabase.rows('DELETE FROM messages');
  await test.ownerDatabase.rows('DELETE FROM notices');
});

const failed: unknown[] = [];
const callsAt = (afterMs: number, forecast: NightForecast = outlook) =>
  createDuskCalls({
    database: test.database,
    clock: { nowUtcMs: () => cutOffUtcMs + afterMs },
    forecast: async () => forecast,
    warn: (error) => failed.push(error),
  });
async function toldAfter(...looks: ReturnType<typeof callsAt>[]): Promise<string[]> {
  await Promise.all(looks.map((calls) => calls.once()));
  looks.forEach((calls) => calls.stop());
  return wordsOf('ilse');
}
const wordsOf = async (who: string): Promise<string[]> =>
  (await test.call(who, listNotices)).body.notices.map(({ words }) => words);
const WORDS = 'Tonight: go. 7.5 of 9.1 dark hours are expected clear; 3 of 3 forecasts agree.';

describe('the call at dusk', () => {
  it('comes at the cut-off hour and not before, and not in the middle of the night', async () => {
    expect(await toldAfter(callsAt(-60_000))).toEqual([]);
    expect(await toldAfter(callsAt(4 * 3_600_000))).toEqual([]);
    expect(await toldAfter(callsAt(60_000))).toEqual([WORDS]);
  });

  it('comes once, however many look at the same moment and after it', async () => {
    expect(await toldAfter(...Array.from({ length: 5 }, () => callsAt(0)))).toEqual([WORDS]);
    expect(await toldAfter(callsAt(120_000))).toEqual([WORDS]);
    expect(failed).toEqual([]);
  });

  it('comes to coordinators alone, and waits for a forecast', async () => {
    const none = { ...outlook, call: null, sources: [] };
    expect(await toldAfter(callsAt(0, none))).toEqual([]);
    await toldAfter(callsAt(60_000));
    expect(await wordsOf('sam')).toEqual([]);
    expect(duskWords({ ...outlook, call: 'no_go', hoursClear: 0.4, agreeing: 2 })).toBe(
      'Tonight: no-go. 0.4 of 9.1 dark hours are expected clear; 2 of 3 forecasts agree.',
    );
  });
});
