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
  ledger: (page) => visit(page, '/ledger'),
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
