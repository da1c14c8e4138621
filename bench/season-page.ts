// The season's page with 150 projects over 90 nights of two rigs: how long until it is drawn, and how long a frame takes while it is scrolled.
// npm run bench:season-page; needs MERIDIEM_TEST_DATABASE_URL and MERIDIEM_CHROMIUM, as the browser tests do, and built pages.
import type { ResponseOf, readSeason, Season } from '@meridiem/contract';
import { nightDatePlus, seededRandom } from '@meridiem/core';
import type { Page } from 'playwright-core';
import { chromium } from 'playwright-core';
import { startStack, stopStack } from '../e2e/stack.ts';

const [PROJECTS, NIGHTS] = [150, 90];
const SCROLL_SEC = 15;
const [FRAME_MS, FIRST_NIGHT] = [34, '2026-10-11'];
const HOUR_MS = 3_600_000;
const LETTERS = [['L', 'broadband'], ['R', 'broadband'], ['G', 'broadband'], ['B', 'broadband'], ['Ha', 'narrowband'], ['OIII', 'narrowband']] as const; // prettier-ignore

const share = (values: readonly number[], at: number): number =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(at * values.length))];

/** A made-up answer of the real shape: each rig's nights hold some five projects each. */
function largeSeason(rigIds: readonly string[]): Season {
  const random = seededRandom(1);
  const idOf = (p: number): string => `00000000-0000-4000-8000-${String(p).padStart(12, '0')}`;
  const nights = Array.from({ length: NIGHTS }, (_, n) => n).flatMap((n) =>
    rigIds.map((rigId, r): Season['nights'][number] => {
      const startUtcMs = Date.parse(`${nightDatePlus(FIRST_NIGHT, n)}T10:00:00Z`);
      return {
        nightDate: nightDatePlus(FIRST_NIGHT, n),
        rigId,
        odds: 0.6,
        startUtcMs,
        endUtcMs: startUtcMs + 10 * HOUR_MS,
        darkHours: 8,
        moonlessHours: 8 * Math.abs(Math.cos((Math.PI * n) / 29.5)),
        cells: Array.from({ length: 5 }, (_, i) => {
          const [letter, filterClass] = LETTERS[Math.floor(random() * LETTERS.length)];
          const fromUtcMs = startUtcMs + (1 + 1.6 * i) * HOUR_MS;
          const project = 2 * Math.floor((random() * PROJECTS) / 2) + r;
          return {
            ...{ projectId: idOf(project), fromUtcMs, toUtcMs: fromUtcMs + 1.5 * HOUR_MS },
            ...{ exposures: 40, exposingSec: 4800, meanRate: 0.8, filters: [{ letter, filterClass, exposures: 40 }] },
          };
        }),
      };
    }),
  );
  const projects = Array.from({ length: PROJECTS }, (_, p): Season['projects'][number] => {
    const middle = 5 + Math.floor(random() * (NIGHTS - 15));
    const dated = (by: number): string => nightDatePlus(FIRST_NIGHT, middle + by);
    return {
      ...{ projectId: idOf(p), name: `Field ${p + 1} in colour`, ownerName: `Member ${1 + (p % 12)}` },
      ...{ rigId: rigIds[p % rigIds.length], deadline: p % 9 === 0 ? dated(8) : null, hangsOnVisit: null },
      ...{ leftHours: 20, expectedHours: 18, finishedShare: 0.9, isOpenEnded: false },
      ...{ early: dated(-4), middle: dated(0), late: dated(6) },
    };
  });
  return { nights, projects, value: 900, bound: 950, draws: 200, fairness: null };
}

/** Scrolls down and up without a rest. @returns milliseconds between frames */
const scrolled = (page: Page): Promise<number[]> =>
  page.evaluate(async (sec) => {
    const took: number[] = [];
    let [last, step] = [performance.now(), 60];
    for (const endMs = last + 1000 * sec; last < endMs;) {
      window.scrollBy(0, step);
      if (scrollY <= 0 || scrollY + innerHeight >= document.documentElement.scrollHeight - 1) step = -step;
      const now = await new Promise<number>((resolve) => requestAnimationFrame(() => resolve(performance.now())));
      took.push(now - last);
      last = now;
    }
    return took;
  }, SCROLL_SEC);

const state = await startStack();
try {
  const browser = await chromium.launch({ executablePath: process.env.MERIDIEM_CHROMIUM, args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(state.url);
  await page.getByRole('button', { name: /Ilse/ }).click();
  await page.getByRole('navigation').waitFor();
  const { rigs } = (await (await page.request.get(`${state.url}/api/observatory`)).json()) as {
    rigs: { id: string }[];
  };
  const answer: ResponseOf<typeof readSeason> = {
    season: largeSeason(rigs.map(({ id }) => id).slice(0, 2)),
    job: null,
  };
  await page.route('**/api/season', (route) => route.fulfill({ json: answer }));
  const beganMs = Date.now();
  await page.goto(`${state.url}/season`);
  await page.getByText(`Field ${PROJECTS} in colour`).first().waitFor();
  const cells = await page
    .getByRole('group', { name: /^Nights of/ })
    .getByRole('button')
    .count();
  console.log(`${PROJECTS} projects × ${NIGHTS} nights, ${cells} places of work: there ${Date.now() - beganMs} ms after it was asked for`); // prettier-ignore
  const frames = await scrolled(page);
  console.log(
    `scrolled: ${frames.length} frames, median ${share(frames, 0.5).toFixed(0)} ms, 95 % ${share(frames, 0.95).toFixed(0)} ms, longest ${Math.max(...frames).toFixed(0)} ms (95 % wanted within ${FRAME_MS} ms)`,
  );
  await browser.close();
} finally {
  await stopStack();
}
