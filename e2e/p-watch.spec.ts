// A night by devices: set on the Observatory page, started from the plan, watched step by step, ended by a person.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { choose, enterAs, rigSection, seriousFaults, urlOf } from './pages.ts';
import { queryStack, stackState } from './stack.ts';

const NIGHT = '2026-10-13';

test('a coordinator sets simulated devices for a rig, and they answer', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/observatory');
  const rig = page.getByRole('region', { name: /^Wren/ });
  await rig.getByRole('button', { name: /^Devices/ }).click();
  await choose(page, 'Devices of Wren, the wide refractor', 'the simulated observatory');
  await rig.getByRole('button', { name: /^Test the devices/ }).click();
  await expect(rig.getByRole('list', { name: /tested$/ })).toContainText('its devices are ready for a night');
});

test('the night is carried out by them: watched, on disk, in the ledger, and closed when a person ends it', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await enterAs(page, 'Ilse Marwick', `/nights/${NIGHT}`);
  const rig = rigSection(page, /^Wren/);
  await rig.getByRole('button', { name: 'Publish' }).click();
  await expect(rig).toContainText('published, version 1');
  await rig.getByLabel(/^Speed/).selectOption('600');
  await rig.getByRole('button', { name: 'Start the night on simulated devices' }).click();
  await rig.getByRole('link', { name: 'Watch' }).click();
  await expect(page).toHaveURL(/\/watch\?rig=/);
  const steps = page.getByRole('region', { name: 'Steps' });
  for (const words of [
    'Connecting the devices',
    'Opening the roof',
    'Slewing',
    'Focusing',
    'Solving',
    'Starting the guiding',
  ])
    await expect(steps.getByText(words).first()).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/^Roof/).locator('..')).toContainText('open');
  await expect(page.getByText(/[2-9] of \d+/)).toBeVisible({ timeout: 90_000 });
  const byHand = page.getByRole('region', { name: 'By hand' });
  await byHand.getByRole('button', { name: 'Hold after this exposure' }).click();
  await expect(byHand).toContainText('Held by Ilse Marwick: nothing new is begun.');
  await expect(steps.getByText('Waiting: held by hand')).toBeVisible({ timeout: 60_000 });
  await byHand.getByRole('button', { name: 'Go on' }).click();
  await expect(byHand).toContainText('Last by hand: Ilse Marwick said that it goes on.');
  await expect(steps.getByText(/The rest of the night is planned again: \d+ exposures/)).toBeVisible({
    timeout: 60_000,
  });
  expect(await seriousFaults(page)).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
  await page.setViewportSize({ width: 1280, height: 800 });

  await page.goto(urlOf(`/nights/${NIGHT}`));
  await rigSection(page, /^Wren/).getByRole('button', { name: 'Stop' }).click();
  await rigSection(page, /^Wren/).getByRole('link', { name: 'Watch' }).click();
  await expect(page.getByText('The night was stopped by a person; the roof is closed.')).toBeVisible({
    timeout: 90_000,
  });

  const [{ taken, rates }] = await queryStack<{ taken: number; rates: number }>(
    `SELECT count(*)::int AS taken, count(m.rate_measured)::int AS rates FROM exposures e JOIN measurements m ON m.exposure_id = e.id WHERE e.night_date = '${NIGHT}' AND e.run_step_id IS NOT NULL`,
  );
  const files = readdirSync(join(stackState().environment.MERIDIEM_FRAMES, 'Wren-the-wide-refractor', NIGHT));
  expect(taken).toBeGreaterThanOrEqual(2);
  expect([files.filter((name) => name.endsWith('.fits')).length, rates]).toEqual([taken, 0]);
  const open = await queryStack(`SELECT kind FROM run_actions WHERE outcome IS NULL`);
  expect(open).toEqual([]);
});
