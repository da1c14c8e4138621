import type { Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import { choose, enterAs, seriousFaults, urlOf } from './pages.ts';
import { queryStack, stackState } from './stack.ts';

const PAGES = [
  '/tonight',
  '/nights/2026-11-20',
  '/projects',
  '/projects?new=1',
  '/ledger',
  '/ledger?verdict=rejected',
  '/finder?target=NGC%20253&beside=NGC%20253',
  '/imports',
  '/season',
  '/season/what-if',
  '/standing',
  '/visits',
  '/members',
  '/messages',
  '/review',
  '/time',
  '/calibration',
  '/framing?target=NGC%20253&ra=11.888&dec=-25.29&size=27.5&rows=2&cols=3',
  '/observatory',
  '/help',
  '/nowhere',
];

test('the sign-in page has no serious fault', async ({ page }) => {
  await page.goto(urlOf('/'));
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  expect(await seriousFaults(page)).toEqual([]);
});

type Theme = 'paper' | 'lamp' | 'ember';

async function showTheme(page: Page, theme: Theme): Promise<void> {
  await page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
}

const DARK_THEMES = ['lamp', 'ember'] as const;

/** A theme changes colours and nothing else: after the first only contrast can be another.
 * @param dark the themes looked at beside paper */
async function faultsInThemes(page: Page, dark: readonly Theme[] = DARK_THEMES): Promise<string[]> {
  await showTheme(page, 'paper');
  const faults = await seriousFaults(page);
  for (const theme of dark) {
    await showTheme(page, theme);
    faults.push(...(await seriousFaults(page, ['color-contrast'])).map((fault) => `${theme}: ${fault}`));
  }
  return faults;
}

/** Everything that a page asks for has come, and what moved is still. */
async function settled(page: Page): Promise<void> {
  await page.locator('main').getByText(/\w/).first().waitFor();
  await expect(page.getByRole('status', { name: /^Loading/ })).toHaveCount(0);
  await page.waitForTimeout(400);
}

/** What a page loads from elsewhere, and what fails in it, from now on. */
function watched(page: Page): { readonly foreign: string[]; readonly failed: string[] } {
  const [foreign, failed]: [string[], string[]] = [[], []];
  page.on('request', (request) => {
    if (!request.url().startsWith(stackState().url) && !request.url().startsWith('data:')) foreign.push(request.url());
  });
  page.on('console', (message) => {
    if (message.type() === 'error') failed.push(message.text());
  });
  page.on('pageerror', (error) => failed.push(String(error)));
  return { foreign, failed };
}

test('no page has a serious fault in any of the three themes, loads from outside or fails', async ({ page }) => {
  test.setTimeout(1_260_000);
  const seen = watched(page);
  await enterAs(page, 'Ilse Marwick');
  for (const [i, path] of PAGES.entries()) {
    await page.goto(urlOf(path));
    await settled(page);
    // The dark themes take turns from page to page; with --long each page is seen in both.
    const dark = process.env.MERIDIEM_LONG === '1' ? DARK_THEMES : [DARK_THEMES[i % 2]];
    expect([path, await faultsInThemes(page, dark)]).toEqual([path, []]);
  }
  expect(seen).toEqual({ foreign: [], failed: [] });
  await page.goto(urlOf('/projects'));
  await page.getByRole('link', { name: /in six panels/ }).click();
  await expect(page.getByRole('heading', { name: 'Limits', exact: true })).toBeVisible();
  expect(await faultsInThemes(page)).toEqual([]);
  await page.getByRole('button', { name: /^Why/ }).first().click();
  expect(await faultsInThemes(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await choose(page, 'Theme', 'lamp');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  await choose(page, 'Theme', 'paper');
});

test('a guest looks and can change nothing', async ({ page }) => {
  await enterAs(page, 'Sam Ferrow', '/projects');
  await expect(page.getByRole('button', { name: 'New project' })).toHaveCount(0);
  await page.getByRole('link', { name: /in six panels/ }).click();
  await expect(page.getByText('You may look')).toBeVisible();
  await expect(page.getByRole('button', { name: /: change$/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /Ask for/ })).toHaveCount(0);
  await page.goto(urlOf('/standing'));
  await expect(page.getByRole('table').first()).toBeVisible();
  await expect(page.getByRole('form')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /shares|hours|swap/ })).toHaveCount(0);
  await page.goto(urlOf('/tonight'));
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tonight');
  await expect(page.getByRole('button', { name: /Publish|Play/ })).toHaveCount(0);
});

/** What a narrow screen can get wrong that a wide one does not: names, roles and colours are looked at there. */
const OF_THE_WIDTH = ['aria-hidden-focus', 'button-name', 'link-name', 'nested-interactive', 'scrollable-region-focusable']; // prettier-ignore

test('every page is read on a phone without scrolling sideways or a serious fault, and its menu leads to the others', async ({
  page,
}) => {
  test.setTimeout(900_000);
  await page.setViewportSize({ width: 390, height: 844 });
  await enterAs(page, 'Ilse Marwick');
  const [project] = await queryStack<{ id: string }>(
    `SELECT id FROM projects WHERE name LIKE '%in six panels' ORDER BY created LIMIT 1`,
  );
  for (const path of [...PAGES, `/projects/${project.id}`, `/projects/${project.id}/depth?of=archive`]) {
    await page.goto(urlOf(path));
    await settled(page);
    const beyond = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect([path, beyond]).toEqual([path, 0]);
    expect([path, await seriousFaults(page, OF_THE_WIDTH)]).toEqual([path, []]);
  }
  await page.getByRole('button', { name: 'Menu' }).click();
  await page.getByRole('menuitem', { name: 'Visits' }).click();
  await expect(page).toHaveURL(/\/visits$/);
});

test('a wrong password is said at its field and keeps the address', async ({ page }) => {
  await page.goto(urlOf('/'));
  await page.getByLabel('Address').fill('ilse@saltbush.example');
  await page.getByLabel('Password').fill('not this');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toHaveText('Address or password is wrong');
  await expect(page.getByLabel('Address')).toHaveValue('ilse@saltbush.example');
});
