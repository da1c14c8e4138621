// Pictures of every main view from the running demo: npm run screenshots [-- FOLDER [VIEW…]]
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { readCsv } from '@meridiem/core';
import { chromiumOptions } from '../e2e/chromium.ts';
import { frameFile } from '../e2e/frames.ts';

const [folder = 'docs/screenshots', ...wanted] = process.argv.slice(2);
const base =
  process.env.MERIDIEM_SERVER_URL ?? `http://127.0.0.1:${readFileSync('.meridiem/server-port', 'utf8').trim()}`;
mkdirSync(folder, { recursive: true });

const VIEWS: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  tonight: (page) => visit(page, '/tonight'),
  'tonight-by-hand': async (page) => {
    const rig = await openRig(page, '/tonight?plan=working&against=automatic');
    await rig
      .getByRole('button', { name: /^2: .*arrows move/ })
      .first()
      .focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
    await rig.getByRole('region', { name: 'By hand' }).waitFor();
    await rig.getByRole('region', { name: 'Compared' }).waitFor();
    await page.waitForTimeout(3000);
  },
  goals: async (page) => {
    await openProject(page, /in six panels/);
    await page.getByRole('button', { name: /Set goals on 6 panels/ }).click();
    await page.getByLabel('Recipe 1').selectOption({ index: 5 });
    await page.getByLabel('Wanted 1').fill('3h');
    await page.getByRole('button', { name: 'Add row' }).click();
    await page.getByRole('button', { name: 'Add row' }).click();
    await page.getByRole('button', { name: 'Fit all rows to' }).click();
  },
  watch: async (page) => {
    await visit(page, '/observatory');
    const sheet = page.getByRole('region', { name: /^Wren/ });
    await sheet.getByRole('button', { name: /^Devices/ }).click();
    await sheet.getByRole('button', { name: /^Devices of Wren/ }).click();
    await page.getByRole('option', { name: 'the simulated observatory' }).click();
    const rig = await openRig(page, '/tonight');
    await rig.getByRole('button', { name: /^Publish/ }).click();
    await rig.getByLabel(/^Speed/).selectOption('600');
    await rig.getByRole('button', { name: 'Start the night on simulated devices' }).click();
    await rig.getByRole('link', { name: 'Watch' }).click();
    await page.getByText(/^1[2-9] of /).waitFor({ timeout: 180_000 });
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
    await page.waitForLoadState('networkidle');
  },
  exposure: async (page) => {
    await visit(page, '/ledger?view=pictures');
    await page.getByRole('listbox').getByRole('option').nth(2).dblclick();
    await page.getByRole('heading', { name: 'Verdicts' }).waitFor();
    await page.waitForLoadState('networkidle');
  },
  import: openImport,
  time: (page) => visit(page, '/time?from=2026-09-27&to=2026-10-10&night=2026-10-08'),
  observatory: (page) => visit(page, '/observatory'),
};

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

/** Frames of the demo's own panels, some of them doubtful; the import is only looked at. */
async function openImport(page: Page): Promise<void> {
  const targets = readCsv(await (await page.request.get(`${base}/api/exports/targets`)).text());
  const panels = targets.filter((row) => row.rig.startsWith('Heron') && row.ra_deg !== '').slice(0, 3);
  const files = panels.flatMap((panel, p) =>
    Array.from({ length: 24 - 8 * p }, (_, i) =>
      frameFile({
        name: `frame-${p + 1}-${String(i + 1).padStart(3, '0')}.fits`,
        raDeg: Number(panel.ra_deg),
        decDeg: Number(panel.dec_deg) + (i % 8 === 7 ? 0.11 : 0),
        filter: i % 8 === 6 ? '' : p === 1 ? 'SII' : 'Lum',
        startIso: new Date(Date.UTC(2026, 8, 12 + p, 12, 3 * i, 0, 120)).toISOString().replace('Z', ''),
        exposureSec: i % 8 === 5 ? 60 : 120,
        camera: 'HE-0302',
        pixel: 1000 * p + i,
      }),
    ),
  );
  const notes = { name: 'observing-notes.txt', mimeType: 'text/plain', buffer: Buffer.from('clear until two') };
  await visit(page, '/imports');
  await page.getByLabel('Choose files').setInputFiles([...files, notes]);
  await page.getByRole('region', { name: 'ready' }).waitFor();
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
