import { expect, test } from '@playwright/test';
import { enterAs, rigSection, seriousFaults, urlOf } from './pages.ts';

test('nights are closed, a remark opens one again, and what is charged follows', async ({ page }) => {
  await enterAs(page, 'Petra Lindholm', '/time');
  await expect(page.getByText(/2 of 14 nights are to be closed/)).toBeVisible();
  await page.getByRole('button', { name: 'Close these 2' }).click();
  await expect(page.getByText('2 nights are closed')).toBeVisible();
  await expect(page.getByText('All 14 nights are closed.')).toBeVisible();
  const charged = page.getByRole('region', { name: 'Charged hours' });
  await expect(charged.getByRole('row').nth(1)).toContainText(/dark|bright/);

  const newest = page.getByRole('row').nth(1);
  await newest.getByRole('button').click();
  const form = page.getByRole('form', { name: 'Add a remark' });
  await form.getByLabel('from').fill('23:99');
  await form.getByLabel('to').fill('01:00');
  await form.getByRole('button', { name: 'Save remark' }).click();
  await expect(form.getByRole('alert')).toContainText('"23:99" is no clock time');
  await form.getByLabel('from').fill('23:00');
  await form.getByLabel('What happened').fill('fog from the plain');
  await form.getByRole('button', { name: 'Save remark' }).click();
  await expect(page.getByText(/fog from the plain; Petra Lindholm/)).toBeVisible();
  await expect(newest).toContainText('changed since closed');
  expect(await seriousFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Close it' }).click();
  await expect(newest).toContainText('closed');
  await expect(newest).toContainText('2.0');
});

test('a coordinator sets dues and takes them out as a table', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/time');
  const rule = page.getByRole('form', { name: 'How hours are charged' });
  await rule.getByLabel('dues an hour').fill('3.5');
  await rule.getByLabel('in', { exact: true }).fill('EUR');
  await rule.getByRole('button', { name: 'Save rates' }).click();
  await expect(page.getByRole('columnheader', { name: 'dues' })).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'dues as CSV' }).click();
  expect((await download).suggestedFilename()).toMatch(/^dues .*\.csv$/);
});

test('a project says what it still needs, where its time went, and how a wish came about', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in six panels/ }).click();
  const time = page.getByRole('region', { name: 'Time', exact: true });
  await expect(time).toContainText(/nights?; done in the night of|Not in the next 60 nights/, { timeout: 180_000 });
  await expect(time.getByRole('row', { name: /^overhead/ })).toContainText(/\d\.\d\s*h/);
  await page
    .getByRole('button', { name: /^Why: .*what will be used/ })
    .first()
    .click();
  await expect(page.getByRole('complementary', { name: 'Why' })).toContainText(/How the goal changed.*wanted/);
});

test('everything with a name is found from anywhere', async ({ page }) => {
  await enterAs(page, 'Mirela Costin');
  await page.keyboard.press(':');
  await page.getByLabel('Find a command').fill('six pan');
  await page
    .getByRole('option', { name: /in six panels/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('in six panels');
});

test('a published night goes into calendars', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/nights/2026-10-13');
  const rig = rigSection(page, /^Heron/);
  await rig.getByRole('button', { name: /^Publish/ }).click();
  await expect(rig.getByRole('link', { name: 'calendar file' })).toBeVisible();
  await page.goto(urlOf('/members'));
  const calendar = page.getByRole('region', { name: 'Calendar' });
  await calendar.getByRole('button', { name: 'Make an address' }).click();
  const address = await calendar.getByLabel('One-time link').inputValue();
  const followed = await page.request.get(address);
  expect(await followed.text()).toMatch(/BEGIN:VCALENDAR[^]*BEGIN:VEVENT/);
  await calendar.getByRole('button', { name: 'End it' }).click();
  await expect(calendar.getByText('You have no calendar address')).toBeVisible();
  expect((await page.request.get(address)).status()).toBe(404);
});
