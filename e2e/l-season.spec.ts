// The nights ahead as a coordinator and a member see them.
import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults, urlOf } from './pages.ts';

const PLANNED = { timeout: 270_000 };
const WHY_NOT = /closed|best light|Its last night|in the wheel|another angle|Its grant|: /;

test('the season says when each project ends and what a night would do', async ({ page }) => {
  await enterAs(page, 'coordinator', '/season');
  await expect(page.getByText(/At least \d+ % of the best possible for these odds; proven/)).toBeVisible(PLANNED);
  const wren = page.getByRole('region', { name: /^Season of Wren/ });
  await expect(wren.getByText(/most likely/).first()).toBeVisible();
  const nights = wren
    .getByRole('group', { name: /^Nights of/ })
    .filter({ has: page.getByRole('button') })
    .first();
  await nights.getByRole('button').first().focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  const chosen = page.getByRole('region', { name: 'The chosen night' });
  await expect(chosen).toContainText(/h of exposure at \d+ % of the target’s best light/);
  expect(await seriousFaults(page)).toEqual([]);
  const address = page.url();
  await page.reload();
  await expect(chosen).toBeVisible(PLANNED);
  expect(page.url()).toBe(address);
  await chosen.getByRole('button', { name: 'Why here?' }).click();
  await expect(chosen.getByText(/It gathers \d+ % of its best light here.*the season would lose/)).toBeVisible(PLANNED);
  const night = chosen.getByLabel('Night');
  const other = await night.locator('option', { hasNotText: 'planned' }).first().getAttribute('value');
  await night.selectOption(other!);
  await expect(chosen).toContainText('Not planned in this night.');
  await chosen.getByRole('button', { name: 'Why not?' }).click();
  await expect(chosen.getByText(WHY_NOT)).toBeVisible(PLANNED);
  expect(await seriousFaults(page)).toEqual([]);
  await night.selectOption((await night.locator('option', { hasText: 'planned' }).first().getAttribute('value'))!);
  await page.getByLabel('Projects by').selectOption('member');
  const own = page.getByRole('region', { name: 'Season of Jonah Teague' });
  await expect(own.getByRole('group', { name: /^Nights of/ }).first()).toBeVisible();
  await expect(own.getByText('Jonah Teague').nth(1)).toBeVisible();
  await expect(wren).toHaveCount(0);
  await chosen.getByRole('link', { name: 'The night' }).click();
  await expect(page).toHaveURL(/\/nights\/\d{4}-\d\d-\d\d/);
});

test('closed nights are said at their field, leave the season empty, and are opened again', async ({ page }) => {
  await enterAs(page, 'coordinator', '/observatory');
  const closed = page.getByRole('region', { name: 'Closed nights' });
  const first = await closed.getByLabel('First night').inputValue();
  const before = new Date(Date.parse(`${first} UTC`) - 86_400_000).toISOString().slice(0, 10);
  await closed.getByLabel('Last night').fill(before);
  await closed.getByLabel('Why').fill('dust in the dome');
  await closed.getByRole('button', { name: 'Close these nights' }).click();
  await expect(closed.getByRole('alert')).toContainText('before the first');
  await closed.getByLabel('Last night').fill(first);
  await closed.getByRole('button', { name: 'Close these nights' }).click();
  await expect(closed.getByText('dust in the dome')).toBeVisible();
  await page.goto(urlOf('/season'));
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  await expect(page.getByTitle(/: closed$/).first()).toBeAttached();
  await page.goto(urlOf('/observatory'));
  await closed.getByRole('listitem').filter({ hasText: 'dust in the dome' }).getByRole('button', { name: 'Open again' }).click(); // prettier-ignore
  await expect(closed.getByText('dust in the dome')).toHaveCount(0);
});

test('the odds of a month are changed in place, and the season is planned anew', async ({ page }) => {
  await enterAs(page, 'coordinator', '/observatory');
  const climate = page.getByRole('region', { name: 'Climate' });
  const november = climate.getByRole('button', { name: 'Clear nights in Nov' });
  await november.click();
  await climate.getByRole('textbox', { name: 'Clear nights in Nov' }).fill('120');
  await page.keyboard.press('Enter');
  await expect(climate.getByRole('alert')).toBeVisible();
  await climate.getByRole('textbox', { name: 'Clear nights in Nov' }).fill('41 %');
  await page.keyboard.press('Enter');
  await expect(climate.getByText('41 %')).toBeVisible();
});

test('a season is stopped by a button, and asked for again', async ({ page }) => {
  await enterAs(page, 'coordinator', '/season');
  await page.getByRole('button', { name: 'Stop' }).click(PLANNED);
  await page.getByRole('button', { name: 'Plan the season' }).click();
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
});
