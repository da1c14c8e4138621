import { expect, test } from '@playwright/test';
import { tabTo, urlOf } from './pages.ts';

test('the slice is walked by keyboard alone', async ({ page }) => {
  await page.goto(urlOf('/'));
  await tabTo(page, /Ilse Marwick/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tonight');

  await page.keyboard.press('g');
  await page.keyboard.press('p');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Projects');
  await tabTo(page, /in six panels/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Limits', exact: true })).toBeVisible();

  await tabTo(page, /^Wanted through Ha: change/);
  await page.keyboard.press('Enter');
  await page.keyboard.type('70');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Wanted through Ha: change' }).first()).toContainText('70');
  await page.keyboard.press('z');
  await expect(page.getByText(/Undone/).first()).toBeVisible();

  await page.keyboard.press('g');
  await page.keyboard.press('l');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ledger');
  await tabTo(page, /^Exposures/);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('3 selected:')).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByRole('dialog')).toContainText('Reject 3 exposures');
  await page.keyboard.press('3');
  await expect(page.getByText('3 rejected; z undoes it')).toBeVisible();
  await page.keyboard.press('z');
  await expect(page.getByText(/Undone: rejected: 3/).first()).toBeVisible();

  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tonight');
  await expect(async () => {
    await page.keyboard.press(']');
    await expect(page.getByText('an estimate')).toBeVisible({ timeout: 2000 });
  }).toPass();
  await expect(async () => {
    await page.keyboard.press('[');
    await expect(page.getByText('an estimate')).toBeHidden({ timeout: 2000 });
  }).toPass();
  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await tabTo(page, /^Why/);
  await page.keyboard.press('?');
  await expect(page.getByRole('complementary', { name: 'Why' })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.keyboard.press(':');
  await page.keyboard.type('observ');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Site', exact: true })).toBeVisible();

  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await tabTo(page, /^Publish/);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/published, version/).first()).toBeVisible();
});
