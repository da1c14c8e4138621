// Three thousand exposures as pictures: how long a frame of the page takes while it is scrolled, and a verdict by key.
// npm run bench:sheet; needs MERIDIEM_TEST_DATABASE_URL and MERIDIEM_CHROMIUM, as the browser tests do, and built pages.
import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { normalFrom, seededRandom, writeFits } from '@meridiem/core';
import type { Page } from 'playwright-core';
import { chromium } from 'playwright-core';
import { queryStack, startStack, stopStack } from '../e2e/stack.ts';

const COUNT = 3000;
const [WIDTH, HEIGHT] = [160, 120];
/** Looked at row by row; quickly, every picture drawn on the way; flicked, pictures when it rests. */
const SPEEDS_PX_PER_SEC = [600, 1800, 6000];
const SCROLL_SEC = 15;
const KEYS = 60;
const [FRAME_MS, KEY_MS] = [34, 100];

const share = (values: readonly number[], at: number): number =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(at * values.length))];

/** A small picture of a few stars for each of the newest exposures, no two alike. */
async function writeFrames(folder: string): Promise<void> {
  const rows = await queryStack<{ id: string; observatory: string }>(
    `SELECT id, observatory_id AS observatory FROM exposures WHERE kind = 'light' ORDER BY start_utc DESC LIMIT ${COUNT}`,
  );
  const values = rows.map(({ id, observatory }, i) => {
    const random = seededRandom(i);
    const pixels = Uint16Array.from({ length: WIDTH * HEIGHT }, () => 500 + 12 * normalFrom(random));
    for (let s = 0; s < 30; s++) pixels[Math.floor(WIDTH * HEIGHT * random())] += 9000;
    const bytes = writeFits({ widthPx: WIDTH, heightPx: HEIGHT, pixels }, []);
    const name = `sheet/${i}/one.fits`;
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), bytes);
    return `('${id}', '${observatory}', '${name}', ${bytes.length}, '\\x${createHash('sha256').update(bytes).digest('hex')}', now())`;
  });
  await queryStack(
    `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256, copied) VALUES ${values.join(', ')}`,
  );
  console.log(`${rows.length} exposures with a file of ${WIDTH} × ${HEIGHT} pixels`);
}

/** Scrolls down from the top, and up, without a rest. @returns milliseconds between frames */
const scrolled = (page: Page, pxPerSec: number): Promise<number[]> =>
  page.evaluate(
    async ([sec, speed]) => {
      const sheet = document.querySelector('[aria-label="Exposures as pictures"]')!;
      const took: number[] = [];
      sheet.scrollTop = 0;
      await new Promise((resolve) => setTimeout(resolve, 1000));
      const startMs = performance.now();
      let [last, way, top] = [startMs, 1, 0];
      while (last < startMs + 1000 * sec) {
        const bottom = sheet.scrollHeight - sheet.clientHeight;
        if (top >= bottom) way = -1;
        else if (top <= 0) way = 1;
        sheet.scrollTop = top;
        const now = await new Promise<number>((resolve) => requestAnimationFrame(() => resolve(performance.now())));
        took.push(now - last);
        // As far as the time that passed, however slow the page is.
        top = Math.max(0, Math.min(bottom, top + (way * speed * (now - last)) / 1000));
        last = now;
      }
      return took;
    },
    [SCROLL_SEC, pxPerSec] as const,
  );

/** @returns milliseconds from now until every picture in sight is drawn */
const drawnAfter = (page: Page): Promise<number> =>
  page.evaluate(async () => {
    const sheet = document.querySelector('[aria-label="Exposures as pictures"]')!;
    const { top, bottom } = sheet.getBoundingClientRect();
    const startMs = performance.now();
    // Without a named function, which the page would not know.
    while (
      ![...sheet.querySelectorAll('[role=option]')].every((cell) => {
        const at = cell.getBoundingClientRect();
        const picture = cell.querySelector('img');
        return at.bottom < top || at.top > bottom || (picture?.complete === true && picture.naturalWidth > 0);
      })
    )
      await new Promise((resolve) => requestAnimationFrame(resolve));
    return performance.now() - startMs;
  });

/** Accepts one exposure after the other. @returns milliseconds from each key to the verdict that is shown */
async function judged(page: Page): Promise<number[]> {
  const sheet = page.getByRole('listbox', { name: 'Exposures as pictures' });
  await sheet.focus();
  await page.keyboard.press('Home');
  const took: number[] = [];
  for (let i = 0; i < KEYS; i++) {
    const key = i % 2 ? 'u' : 'a';
    took.push(
      await page.evaluate(
        async ([pressed, word]) => {
          const box = document.querySelector('[aria-label="Exposures as pictures"]')!;
          const startMs = performance.now();
          box.dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true, cancelable: true }));
          while (
            !document
              .getElementById(box.getAttribute('aria-activedescendant')!)!
              .getAttribute('aria-label')!
              .endsWith(word)
          )
            await new Promise((resolve) => requestAnimationFrame(resolve));
          return performance.now() - startMs;
        },
        [key, key === 'a' ? 'accepted' : 'undecided'] as const,
      ),
    );
    if (i % 2) await page.keyboard.press('ArrowRight');
  }
  return took;
}

const state = await startStack();
try {
  await writeFrames(state.environment.MERIDIEM_FRAMES);
  const browser = await chromium.launch({ executablePath: process.env.MERIDIEM_CHROMIUM, args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(state.url);
  await page.getByRole('button', { name: /Ilse/ }).click();
  await page.getByRole('navigation').waitFor();
  await page.goto(`${state.url}/ledger?view=pictures`);
  await page.getByRole('listbox', { name: 'Exposures as pictures' }).getByRole('option').first().waitFor();
  for (const pxPerSec of SPEEDS_PX_PER_SEC) {
    const frames = await scrolled(page, pxPerSec);
    const restMs = await drawnAfter(page);
    console.log(
      `scrolled at ${pxPerSec} px/s: ${frames.length} frames, median ${share(frames, 0.5).toFixed(0)} ms, 95 % ${share(frames, 0.95).toFixed(0)} ms, longest ${Math.max(...frames).toFixed(0)} ms (95 % wanted within ${FRAME_MS} ms); every picture there ${restMs.toFixed(0)} ms after it rests`,
    );
  }
  const keys = await judged(page);
  console.log(
    `verdicts by key: ${keys.length}, median ${share(keys, 0.5).toFixed(0)} ms, 95 % ${share(keys, 0.95).toFixed(0)} ms, longest ${Math.max(...keys).toFixed(0)} ms (wanted under ${KEY_MS} ms)`,
  );
  await browser.close();
} finally {
  await stopStack();
}
