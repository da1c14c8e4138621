// Pictures of every main view from the running demo: npm run screenshots [-- FOLDER [VIEW…]]
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../e2e/chromium.ts';

const [folder = 'docs/screenshots', ...wanted] = process.argv.slice(2);
const base =
  process.env.MERIDIEM_SERVER_URL ?? `http://127.0.0.1:${readFileSync('.meridiem/server-port', 'utf8').trim()}`;
mkdirSync(folder, { recursive: true });

const VIEWS: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  tonight: (page) => visit(page, '/tonight'),
  watch: async (page) => {
    await visit(page, '/observatory');
    const sheet = page.getByRole('region', { name: /^Wren/ });
    await sheet.getByRole('button', { name: /^Devices/ }).click();
    await sheet.getByRole('button', { name: /^Devices of Wren/ }).click();
    await page.getByRole('option', { name: 'the simulated observatory' }).click();
    await takeOwnCalibration(page);
    const rig = await openRig(page, '/tonight');
    await rig.getByRole('button', { name: /^Publish/ }).click();
    await rig.getByLabel(/^Speed/).selectOption('600');
    await rig.getByRole('button', { name: 'Start the night on simulated devices' }).click();
    await rig.getByRole('link', { name: 'Watch' }).click();
    await page.getByText(/^1[2-9] of /).waitFor({ timeout: 180_000 });
  },
  // After `watch`, in this order: the same night in wind, on a phone, and closed.
  'watch-interrupted': async (page) => {
    await blow(page);
    await page
      .getByText(/for better conditions/)
      .first()
      .waitFor({ timeout: 120_000 });
  },
  'watch-phone': async (page) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await openWatch(page);
  },
  // To its end, with its rig's own flats and darks, and reviewed.
  'watch-closed': async (page) => {
    await openWatch(page);
    await page.getByText('The plan was carried out; the roof is closed.').waitFor({ timeout: 900_000 });
    await page.getByRole('button', { name: 'Compare with the best possible' }).click();
    await page.getByRole('table', { name: 'Where the difference went' }).waitFor({ timeout: 120_000 });
    await page.evaluate(() => window.scrollTo(0, 200));
  },
  season: async (page) => {
    await visit(page, '/season');
    await page.getByText(/best possible/).waitFor({ timeout: 120_000 });
    await page.getByRole('button', { name: 'Work out what would help' }).last().click();
    await page.getByRole('list', { name: 'What would help' }).waitFor({ timeout: 120_000 });
    await page
      .getByRole('group', { name: /^Nights of/ })
      .first()
      .getByRole('button')
      .first()
      .click();
  },
  'what-if': async (page) => {
    await visit(page, '/season/what-if');
    await page
      .getByLabel('Changes tried')
      .getByRole('checkbox', { name: /in six panels/ })
      .click();
    const ask = page.getByRole('button', { name: 'Plan this season' });
    await ask.or(page.getByRole('region', { name: 'Side by side' })).waitFor({ timeout: 60_000 });
    if (await ask.isVisible()) await ask.click();
    await page.getByRole('region', { name: 'Side by side' }).waitFor({ timeout: 120_000 });
    await page.getByRole('heading', { name: 'Side by side' }).evaluate((heading) => heading.scrollIntoView());
  },
  standing: (page) => visit(page, '/standing'),
  request: async (page) => {
    await openProject(page, /and its field/);
    await page.getByRole('form', { name: 'Decide the request' }).waitFor();
  },
  visits: async (page) => {
    await visit(page, '/visits');
    await page.getByRole('button', { name: 'Enter measured angle' }).click();
    await page.getByRole('button', { name: 'Confirm angle' }).waitFor();
    const ask = page.getByRole('button', { name: /Work out which visits/ });
    if (await ask.isVisible()) await ask.click();
    await page
      .getByText(/weighted hours/)
      .first()
      .waitFor({ timeout: 120_000 });
  },
  projects: (page) => visit(page, '/projects'),
  project: async (page) => {
    await visit(page, '/projects');
    await page
      .getByRole('link', { name: /in colour|in six panels/ })
      .last()
      .click();
    await page.getByRole('heading', { name: 'Limits' }).waitFor();
  },
  finder: async (page) => {
    await visit(page, '/finder?target=NGC%20253&beside=NGC%20253,NGC%20300');
    await page.getByText(/\d+ targets/).waitFor({ timeout: 60_000 });
    await page.waitForLoadState('networkidle');
  },
  framing: async (page) => {
    await visit(
      page,
      '/framing?target=NGC%20253&ra=11.95&dec=-25.6&sra=11.888&sdec=-25.2884&size=27.5&rows=2&cols=3&angle=12&overlap=15',
    );
    await page.getByText('rendered, not photographed').waitFor({ timeout: 60_000 });
  },
  ledger: (page) => visit(page, '/ledger'),
  // After `watch`: its night is the one with files.
  pictures: async (page) => {
    await visit(page, '/ledger?view=pictures');
    await page.getByRole('listbox').focus();
    await page.keyboard.press('ArrowRight');
    await page.waitForLoadState('networkidle', { timeout: 120_000 });
  },
  exposure: async (page) => {
    await visit(page, '/ledger?view=pictures');
    await page.getByRole('listbox').getByRole('option').nth(2).dblclick();
    await page.getByRole('heading', { name: 'Verdicts' }).waitFor();
    await page.waitForLoadState('networkidle');
  },
  // After `watch` as well: the project whose files tell how deep they are.
  depth: async (page) => {
    await visit(page, `/projects/${await mostMeasured(page)}/depth`);
    await page.getByRole('img', { name: /^Depth in/ }).waitFor();
  },
  // After a night whose rig took its own flats and darks.
  calibration: async (page) => {
    await visit(page, '/calibration');
    await page.getByText('there', { exact: true }).first().waitFor();
  },
  delivery: async (page) => {
    await visit(page, `/projects/${await mostMeasured(page)}/files`);
    await page.getByText(/^Download/).waitFor();
  },
  time: (page) => visit(page, '/time?from=2026-09-27&to=2026-10-10&night=2026-10-08'),
  observatory: (page) => visit(page, '/observatory'),
};

/** Wren takes its flats and darks by itself. */
async function takeOwnCalibration(page: Page): Promise<void> {
  const { rigs } = (await (await page.request.get(`${base}/api/observatory`)).json()) as { rigs: { id: string; name: string }[] }; // prettier-ignore
  const { id } = rigs.find(({ name }) => name.startsWith('Wren'))!;
  for (const [name, value] of Object.entries({ flatsLongestMin: 60, darksLongestMin: 90 }))
    await page.request.put(`${base}/api/rigs/${id}/night-rules`, { data: { name, value }, headers: { origin: base } });
}

/** The project with the most measured files. */
async function mostMeasured(page: Page): Promise<string> {
  const read = async (path: string) => (await page.request.get(`${base}/api${path}`)).json();
  const { projects } = (await read('/projects')) as { projects: { id: string }[] };
  const measured = projects.map(async ({ id }) => {
    const { filters } = (await read(`/projects/${id}/depth`)) as { filters: { measured: number }[] };
    return { id, count: filters.reduce((sum, filter) => sum + filter.measured, 0) };
  });
  return (await Promise.all(measured)).toSorted((one, other) => other.count - one.count)[0].id;
}

async function openProject(page: Page, name: RegExp): Promise<void> {
  await visit(page, '/projects');
  await page.getByRole('link', { name }).last().click();
  await page.getByRole('heading', { name: 'Limits', exact: true }).waitFor();
}

async function openRig(page: Page, path: string) {
  await visit(page, path);
  const rig = page.getByRole('region', { name: /^Wren/ });
  await rig.getByLabel('Goal to ask about').getByRole('option').nth(2).waitFor({ state: 'attached' });
  return rig;
}

async function visit(page: Page, path: string): Promise<void> {
  await page.goto(base + path);
  await page.getByRole('heading', { level: 1 }).waitFor();
}

/** The night that is under way on Wren. */
async function openWatch(page: Page): Promise<void> {
  await visit(page, '/tonight');
  await page.getByRole('region', { name: /^Wren/ }).getByRole('link', { name: 'Watch' }).click();
  await page.getByRole('region', { name: 'Steps' }).waitFor();
}

/** Wind over Wren for an hour of its time: the simulated observatory answers a thousand ports above the application. */
async function blow(page: Page): Promise<void> {
  await openWatch(page);
  const simulator = new URL(base);
  simulator.port = String(Number(simulator.port) + 1000);
  const rigId = new URL(page.url()).searchParams.get('rig')!;
  await page.request.put(`${simulator.origin}/rigs/${rigId}/faults`, { data: { fault: 'wind', forSec: 3600 } });
}

const browser = await chromium.launch(chromiumOptions());
for (const [name, open] of Object.entries(VIEWS)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  await page.goto(base);
  await page.getByRole('button', { name: /coordinator/ }).click();
  await page.getByRole('navigation').waitFor();
  await open(page);
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await page.close();
  console.log(`${name}.png`);
}
await browser.close();
