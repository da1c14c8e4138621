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
  'sign-in': async () => undefined,
  tonight: (page) => visit(page, '/tonight'),
  'tonight-why': async (page) => {
    await visit(page, '/tonight');
    await page.getByRole('button', { name: /^Why/ }).last().click();
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
  'new-project': async (page) => {
    await visit(page, '/projects?new=1');
    await page.getByLabel('Find a target').fill('ngc 25');
    await page.getByRole('button', { name: /NGC 253/ }).waitFor();
  },
  finder: async (page) => {
    await visit(page, '/finder?target=NGC%20253&beside=NGC%20253,NGC%20300');
    await page.getByText(/\d+ targets/).waitFor({ timeout: 60_000 });
    await page.waitForLoadState('networkidle');
  },
  'finder-sky': async (page) => {
    await visit(page, '/finder?view=sky&target=NGC%20253');
    await page.getByText(/\d+ targets/).waitFor({ timeout: 60_000 });
  },
  framing: async (page) => {
    await visit(
      page,
      '/framing?target=NGC%20253&ra=11.95&dec=-25.6&sra=11.888&sdec=-25.2884&size=27.5&rows=2&cols=3&angle=12&overlap=15',
    );
    await page.getByText('rendered, not photographed').waitFor({ timeout: 60_000 });
  },
  'framing-fit': async (page) => {
    await visit(page, '/framing?target=NGC%20292&ra=13.16&dec=-72.8&sra=13.16&sdec=-72.8&size=189');
    await page.getByText('rendered, not photographed').waitFor({ timeout: 60_000 });
    await page.getByText('Fit for me').click();
    await page.getByRole('button', { name: 'Fit the subject for me' }).click();
    await page.getByRole('button', { name: 'Take 1 × 2' }).scrollIntoViewIfNeeded();
  },
  ledger: (page) => visit(page, '/ledger'),
  import: openImport,
  review: (page) => visit(page, '/review'),
  time: (page) => visit(page, '/time?from=2026-09-27&to=2026-10-10&night=2026-10-08'),
  members: (page) => visit(page, '/members'),
  observatory: (page) => visit(page, '/observatory'),
  'tonight-lamp': async (page) => {
    await visit(page, '/tonight');
    await page.getByLabel('Read by').selectOption('lamp');
  },
  'tonight-ember': async (page) => {
    await visit(page, '/tonight');
    await page.getByLabel('Read by').selectOption('ember');
  },
};

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
  if (name !== 'sign-in') {
    await page.getByRole('button', { name: /coordinator/ }).click();
    await page.getByRole('navigation').waitFor();
  }
  await open(page);
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await page.close();
  console.log(`${name}.png`);
}
await browser.close();
