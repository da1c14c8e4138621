// A night by devices: set on the Observatory page, started from the plan, watched step by step, ended by a person.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import { choose, enterAs, rigSection, seriousFaults, urlOf } from './pages.ts';
import { framesCopied, queryStack, stackState } from './stack.ts';

const NIGHT = '2026-10-13';

test('a coordinator sets simulated devices for a rig, and they answer', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/observatory');
  const rig = page.getByRole('region', { name: /^Wren/ });
  await rig.getByRole('button', { name: /^Devices/ }).click();
  await choose(page, 'Devices of Wren, the wide refractor', 'the simulated observatory');
  await rig.getByRole('button', { name: /^Test the devices/ }).click();
  await expect(rig.getByRole('list', { name: /tested$/ })).toContainText('its devices are ready for a night');
  const numbers = rig.getByRole('region', { name: /^Numbers of a night/ });
  const set = async (name: string, value: string): Promise<void> => {
    await numbers.getByRole('button', { name: `${name}: change` }).click();
    await numbers.getByRole('textbox', { name, exact: true }).fill(value);
    await page.keyboard.press('Enter');
  };
  await set('Wind: pause above', '3');
  await expect(numbers.getByRole('alert')).toContainText('at least 8 m/s, as “Wind: go on below” says');
  await page.keyboard.press('Escape');
  await set('Safe before the roof opens', '15');
  await expect(numbers.getByRole('button', { name: 'Safe before the roof opens: change' })).toHaveText('15');
  expect(await seriousFaults(page)).toEqual([]);
});

test('an hour at sixty times the speed is followed in Watch: step by step, the site, the plan and what came of it', async ({
  page,
}) => {
  test.skip(process.env.MERIDIEM_LONG !== '1', 'an hour at sixty times the speed takes a minute and more: with --long');
  test.setTimeout(720_000);
  await enterAs(page, 'Ilse Marwick', '/observatory');
  const heron = page.getByRole('region', { name: /^Heron/ });
  await heron.getByRole('button', { name: /^Devices/ }).click();
  await choose(page, 'Devices of Heron, the long reflector', 'the simulated observatory');
  await page.goto(urlOf(`/nights/${NIGHT}`));
  const rig = rigSection(page, /^Heron/);
  await rig.getByRole('button', { name: 'Publish' }).click();
  await expect(rig).toContainText('published, version 1');
  await rig.getByLabel(/^Speed/).selectOption('60');
  await rig.getByRole('button', { name: 'Start the night on simulated devices' }).click();
  await rig.getByRole('link', { name: 'Watch' }).click();
  const steps = page.getByRole('region', { name: 'Steps' });
  await expect(steps.getByRole('row').nth(1)).toBeVisible({ timeout: 180_000 });
  // The observatory's own clock, as the newest step has it.
  const clockSec = async (): Promise<number> => {
    const [hour, minute, second] = (await steps.getByRole('row').nth(1).getByRole('cell').first().innerText()).split(':').map(Number); // prettier-ignore
    return 3600 * hour + 60 * minute + second;
  };
  const startSec = await clockSec();
  const passed = async (): Promise<number> => ((await clockSec()) - startSec + 86_400) % 86_400;
  await expect.poll(passed, { timeout: 450_000, intervals: [1000] }).toBeGreaterThanOrEqual(3600);
  for (const name of ['Safety', 'Sky', 'Sensor', 'Mount', 'Focus', 'Pointing'])
    await expect(page.locator('dt', { hasText: new RegExp(`^${name}$`) })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Plan and outcome' })).toContainText(/[1-9]\d* of \d+/);
  await expect(page.getByRole('img', { name: /^Sensor: −/ })).toBeVisible();
  await page.getByRole('button', { name: 'Stop and close now' }).click();
  await expect(page.getByText('The night was stopped by a person; the roof is closed.')).toBeVisible({ timeout: 270_000 }); // prettier-ignore
  // What Watch showed is what the server holds.
  const [{ taken }] = await queryStack<{ taken: number }>(
    `SELECT count(*)::int AS taken FROM run_steps s JOIN night_runs n ON n.id = s.run_id WHERE s.outcome = 'done' AND n.speed = 60`,
  );
  await expect(page.getByText(new RegExp(`^${taken} of \\d+`)).first()).toBeVisible();
  expect(taken).toBeGreaterThanOrEqual(1);
});

test('the night is carried out by them: watched, on disk, in the ledger, and closed when a person ends it', async ({
  page,
}) => {
  test.setTimeout(720_000);
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
    await expect(steps.getByText(words).first()).toBeVisible({ timeout: 270_000 });
  await expect(page.getByText(/^Roof/).locator('..')).toContainText('open');
  await expect(page.getByText(/^[2-9] of \d+$/)).toBeVisible({ timeout: 270_000 });
  const byHand = page.getByRole('region', { name: 'By hand' });
  await byHand.getByRole('button', { name: 'Hold after this exposure' }).click();
  await expect(byHand).toContainText('Held by Ilse Marwick: nothing new is begun.');
  await expect(steps.getByText('Waiting: held by hand')).toBeVisible({ timeout: 180_000 });
  const shots = page.getByRole('region', { name: 'Test shots' });
  await shots.getByLabel(/^Exposure/).fill('600');
  await shots.getByRole('button', { name: 'Take a test shot' }).click();
  await expect(shots.getByRole('alert')).toHaveText('More than 0 and at most 120 s');
  await shots.getByLabel(/^Exposure/).fill('5');
  await shots.getByRole('button', { name: 'Take a test shot' }).click();
  await expect(shots.getByRole('listitem').first()).toHaveText(/^5 s, where it points now: \d+ stars, half-flux radius/, { timeout: 90_000 }); // prettier-ignore
  await expect.poll(() => shots.locator('img').evaluate((image) => (image as HTMLImageElement).naturalWidth)).toBe(440);
  await byHand.getByRole('button', { name: 'Go on' }).click();
  await expect(byHand).toContainText('Last by hand: Ilse Marwick said that it goes on.');
  await expect(steps.getByText(/The rest of the night is planned again: \d+ exposures/)).toBeVisible({
    timeout: 180_000,
  });

  await page.goto(urlOf(`/nights/${NIGHT}`));
  await rigSection(page, /^Wren/).getByRole('button', { name: 'Stop' }).click();
  await rigSection(page, /^Wren/).getByRole('link', { name: 'Watch' }).click();
  await expect(page.getByText('The night was stopped by a person; the roof is closed.')).toBeVisible({
    timeout: 270_000,
  });
  // Looked at once it is over: the night does not wait for it.
  expect(await seriousFaults(page)).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
  await page.setViewportSize({ width: 1280, height: 800 });

  await page.getByRole('button', { name: 'Compare with the best possible' }).click();
  const review = page.getByRole('region', { name: 'Review of the night' });
  await expect(review.getByText(/^The best plan for this night’s weather would have exposed [1-9][\d.]* h/)).toBeVisible({ timeout: 270_000 }); // prettier-ignore
  await expect(review.getByRole('row', { name: /^Changes and holds by hand [\d.]+ ?h/ })).toBeVisible();

  const [{ taken, rates }] = await queryStack<{ taken: number; rates: number }>(
    `SELECT count(*)::int AS taken, count(m.rate_measured)::int AS rates FROM exposures e JOIN measurements m ON m.exposure_id = e.id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs r ON r.id = v.rig_id
     WHERE e.night_date = '${NIGHT}' AND e.run_step_id IS NOT NULL AND r.name LIKE 'Wren%'`,
  );
  await framesCopied();
  const files = readdirSync(join(stackState().environment.MERIDIEM_FRAMES, 'Wren-the-wide-refractor', NIGHT));
  expect(taken).toBeGreaterThanOrEqual(2);
  expect([files.filter((name) => name.endsWith('.fits')).length, rates]).toEqual([taken, 0]);
  const open = await queryStack(`SELECT kind FROM run_actions WHERE outcome IS NULL`);
  expect(open).toEqual([]);
});

test('its exposures are looked at, judged by key, noted and handed over', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', `/ledger?night=${NIGHT}`);
  await page.getByRole('button', { name: 'As pictures' }).click();
  const sheet = page.getByRole('listbox', { name: 'Exposures as pictures' });
  await expect(sheet.getByRole('option').first()).toBeVisible();
  await expect
    .poll(() =>
      sheet
        .locator('img')
        .first()
        .evaluate((image) => (image as HTMLImageElement).naturalWidth),
    )
    .toBeGreaterThan(100);
  expect(await seriousFaults(page)).toEqual([]);
  await sheet.focus();
  await shownAtOnce(page, sheet.getByRole('option').first());
  await page.keyboard.press('r');
  await page.getByRole('button', { name: /^trail/ }).click();
  await expect(sheet.getByRole('option').first()).toContainText('rejected: trail');
  await sheet.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Verdicts' })).toBeVisible();
  await expect(page.getByText('rejected by Ilse Marwick, coordinator: trail')).toBeVisible();
  await page.getByRole('button', { name: 'Centre, 1:1' }).click();
  const picture = page.getByRole('img', { name: /centre, 1:1$/ });
  await expect.poll(() => picture.evaluate((image) => (image as HTMLImageElement).naturalWidth)).toBe(440);
  await page.getByRole('textbox', { name: 'Note' }).fill('A satellite across the middle');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('A satellite across the middle')).toBeVisible();
  await page.keyboard.press('Escape');
  expect(await seriousFaults(page)).toEqual([]);

  const [{ project }] = await queryStack<{ project: string }>(
    `SELECT project_id AS project FROM ledger_rows r JOIN frames f ON f.exposure_id = r.exposure_id WHERE r.verdict <> 'rejected' LIMIT 1`,
  );
  await page.goto(urlOf(`/projects/${project}`));
  await page.getByRole('link', { name: 'Files' }).click();
  const folders = page.getByRole('group', { name: 'Folders' });
  await folders.getByRole('button', { name: /night/ }).click();
  await expect(page.getByRole('cell').first()).not.toContainText(NIGHT + '/');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Download \d+ files/ }).click(),
  ]);
  expect(await download.failure()).toBeNull();
  expect(await seriousFaults(page)).toEqual([]);
});

test('danger reaches a helper by e-mail and webhook: chosen, tested, and taken by a stand-in for the world outside', async ({
  page,
}) => {
  const { MERIDIEM_SIMULATOR_URL: outside, MERIDIEM_WEBHOOK_HOSTS: host } = stackState().environment;
  const letters = async (): Promise<{ by: string; to: string; text: string }[]> =>
    ((await (await page.request.get(`${outside}/post`)).json()) as { letters: { by: string; to: string; text: string }[] }).letters; // prettier-ignore
  await enterAs(page, 'Petra', '/messages');
  const channels = page.getByRole('region', { name: 'Outside the application' });
  await choose(page, 'By webhook', 'danger only');
  await expect(channels.getByRole('alert')).toContainText('Write the address');
  await channels.getByLabel(/Address that is called/).fill('http://elsewhere.example/hook');
  await channels.getByLabel(/Address that is called/).blur();
  await expect(channels.getByRole('alert')).toContainText(`allowed are ${host}`);
  await channels.getByLabel(/Address that is called/).fill(`http://${host}/post/hook`);
  await channels.getByLabel(/Address that is called/).blur();
  await expect(channels.getByRole('alert')).toHaveCount(0);
  await choose(page, 'By e-mail', 'danger only');
  await channels.getByLabel('From').fill('22:00');
  await channels.getByLabel('To').fill('dawn');
  await channels.getByLabel('To').blur();
  await expect(channels.getByRole('alert')).toContainText('is no time');
  await channels.getByRole('button', { name: 'Send a test message' }).click();
  await expect(page.getByText('2 messages sent.')).toBeVisible({ timeout: 90_000 });
  await expect(channels.getByRole('alert')).toContainText('is no time');
  await channels.getByLabel('To').fill('7:00');
  await channels.getByLabel('To').blur();
  const taken = await letters();
  expect(taken.map(({ by }) => by).sort()).toEqual(['email', 'webhook']);
  expect(taken.find(({ by }) => by === 'email')).toMatchObject({ to: 'petra@saltbush.example', text: expect.stringContaining('Subject: Danger: A test') }); // prettier-ignore
  expect(await seriousFaults(page)).toEqual([]);
  await page.reload();
  await expect(channels.getByLabel('From')).toHaveValue('22:00');
});

/** A verdict is seen while its request still waits for the server, and stays when it has arrived. */
async function shownAtOnce(page: Page, row: Locator): Promise<void> {
  const before = await row.getAttribute('aria-label');
  const [key, word] = before!.endsWith('accepted') ? ['u', /undecided$/] : ['a', /accepted$/];
  let go: () => Promise<void> = () => Promise.reject(new Error('no verdict was sent'));
  await page.route('**/api/verdicts', (route) => void (go = () => route.continue()), { times: 1 });
  await page.keyboard.press(key as string);
  await expect(row).toHaveAttribute('aria-label', word);
  await go();
  await expect(page.getByText(/z undoes it/).first()).toBeVisible();
  await expect(row).toHaveAttribute('aria-label', word);
}
