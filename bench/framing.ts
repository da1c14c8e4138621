// A composition of 5 × 4 panels dragged and turned, and the sky pulled along, in the browser without a graphics card:
// npm run bench:framing, with the demo running. Beside it the same hand over a page that does nothing.
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../e2e/chromium.ts';
import { starsAround } from '../packages/server/src/modules/catalogue/around.ts';
import { loadStars } from '../packages/server/src/sky/star-table.ts';

const base =
  process.env.MERIDIEM_SERVER_URL ?? `http://127.0.0.1:${readFileSync('.meridiem/server-port', 'utf8').trim()}`;
const SECONDS = 10;
const STEP_MS = 8;

/** The place whose drawing holds the most stars of the shipped table. */
function densestPlace(): { raDeg: number; decDeg: number; stars: number } {
  const table = loadStars();
  let best = { raDeg: 0, decDeg: 0, stars: 0 };
  for (let decDeg = -80; decDeg <= 80; decDeg += 5)
    for (let raDeg = 0; raDeg < 360; raDeg += 5 / Math.cos((decDeg * Math.PI) / 180)) {
      const stars = starsAround(table, { raDeg, decDeg }, 6).length;
      if (stars > best.stars) best = { raDeg: Number(raDeg.toFixed(2)), decDeg, stars };
    }
  return best;
}

/** Notes the time between frames and every long task; as text, for it runs in the page. */
const NOTE_FRAMES = `
  window.noted = { intervals: [], longTasks: [], on: true };
  let last = null;
  requestAnimationFrame(function tick(now) {
    if (last !== null) noted.intervals.push(now - last);
    last = now;
    if (noted.on) requestAnimationFrame(tick);
  });
  new PerformanceObserver((list) => noted.longTasks.push(...list.getEntries().map((entry) => entry.duration))).observe({ entryTypes: ['longtask'] });
  undefined;
`;

interface Frames {
  readonly intervals: number[];
  readonly longTasks: number[];
}

/** Moves the mouse along a path for some seconds while the page notes its frames and long tasks. */
async function measured(
  page: Page,
  from: [number, number],
  along: (share: number) => [number, number],
): Promise<Frames> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.evaluate(NOTE_FRAMES);
  const started = performance.now();
  for (;;) {
    const share = (performance.now() - started) / (SECONDS * 1000);
    if (share >= 1) break;
    await page.mouse.move(...along(share));
    await new Promise((done) => setTimeout(done, STEP_MS));
  }
  const frames = await page.evaluate<Frames>(
    'noted.on = false, ({ intervals: noted.intervals, longTasks: noted.longTasks })',
  );
  await page.mouse.up();
  return frames;
}

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? 0;
const row = (what: string, { intervals, longTasks }: Frames): string =>
  `| ${what} | ${intervals.length} | ${quantile(intervals, 0.5).toFixed(1)} ms | ${quantile(intervals, 0.95).toFixed(1)} ms | ${Math.max(...intervals).toFixed(1)} ms | ${longTasks.length === 0 ? 'none' : `${longTasks.length}, longest ${Math.max(...longTasks).toFixed(0)} ms`} |`;

const place = densestPlace();
const browser = await chromium.launch(chromiumOptions());
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await page.goto(base);
await page.getByRole('button', { name: /Ilse Marwick/ }).click();
await page.getByRole('heading', { level: 1, name: /Tonight/ }).waitFor();
const rigs = (await (await page.request.get(`${base}/api/observatory`)).json()) as {
  rigs: { id: string; name: string }[];
};
const wide = rigs.rigs.find(({ name }) => /^Wren/.test(name))!.id;
await page.goto(
  `${base}/framing?rig=${wide}&ra=${place.raDeg}&dec=${place.decDeg}&rows=5&cols=4&angle=10&overlap=15&wide=15`,
);
await page.getByText('rendered, not photographed').waitFor({ timeout: 180_000 });
await page.waitForTimeout(1500);
const sky = (await page.getByRole('application', { name: /Sky around/ }).boundingBox())!;
const [x, y] = [sky.x + sky.width / 2, sky.y + sky.height / 2];
const circle =
  (radius: number, turns: number) =>
  (share: number): [number, number] => [
    x + radius * Math.sin(2 * Math.PI * turns * share),
    y + radius * 0.5 * (1 - Math.cos(2 * Math.PI * turns * share)),
  ];
const dragged = await measured(page, [x, y], circle(130, 5));
await page.waitForTimeout(800);
await page.getByRole('button', { name: 'Look at the frame' }).click();
await page.waitForTimeout(1500);
const handle = (await page.locator('[data-handle]').boundingBox())!;
const [hx, hy] = [handle.x + handle.width / 2, handle.y + handle.height / 2];
const reach = Math.hypot(hx - x, hy - y);
const begin = Math.atan2(hx - x, y - hy);
const turned = await measured(page, [hx, hy], (share) => [
  x + reach * Math.sin(begin + 4 * Math.PI * share),
  y - reach * Math.cos(begin + 4 * Math.PI * share),
]);
await page.waitForTimeout(800);
const corner: [number, number] = [sky.x + 24, sky.y + 30];
const pulledSky = await measured(page, corner, (share) => [
  corner[0] + 160 * (1 - Math.cos(6 * Math.PI * share)) * 0.5,
  corner[1] + 120 * (1 - Math.cos(4 * Math.PI * share)) * 0.5,
]);
await page.goto(`${base}/members`);
await page.waitForTimeout(1000);
const idle = await measured(page, [900, 700], (share) => [900 + 100 * Math.sin(30 * share), 700]);
await browser.close();
console.log(
  [
    `5 × 4 panels over ${place.stars} drawn stars at ${place.raDeg}°, ${place.decDeg}°; 1280 × 800, no graphics card, ${SECONDS} s each`,
    '',
    '| what | frames | median | 95 % | longest | tasks over 50 ms |',
    '| --- | --- | --- | --- | --- | --- |',
    row('the composition dragged', dragged),
    row('the composition turned', turned),
    row('the sky pulled', pulledSky),
    row('a page that does nothing', idle),
  ].join('\n'),
);
