// Visits to the site: planned, worked out, made and confirmed by a measurement; then nights are planned with what was measured.
import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults, urlOf } from './pages.ts';
import { queryStack } from './stack.ts';

test.describe.configure({ mode: 'serial' });

const PLANNED = { timeout: 360_000 };
const angleNow = async (): Promise<number> => {
  const [{ angle }] = await queryStack<{ angle: number }>(
    `SELECT a.sky_angle_deg AS angle FROM rig_angles a JOIN rigs r ON r.id = a.rig_id WHERE r.name LIKE 'Wren%' AND upper_inf(a.during)`,
  );
  return angle;
};

test('a helper plans a visit with its work, told at the field what is missing', async ({ page }) => {
  await enterAs(page, 'Petra Lindholm', '/visits');
  const planned = page.getByRole('region', { name: /^Visit before/ });
  await expect(planned).toHaveCount(1);
  await expect(planned).toContainText(/Turn the camera from 12\.0° to 71\.0°, by 59\.0° counter-clockwise, seen from behind it: \d+\.\d mm/); // prettier-ignore
  await expect(planned).toContainText(/it unlocks \d+\.\d h of .*along the diagonal; blocks/);
  await expect(planned).toContainText('New flats afterwards: L, R, G, B, Ha, OIII, SII');
  const form = page.getByRole('form', { name: 'Plan a visit' });
  await form.getByRole('button', { name: 'Plan visit' }).click();
  await expect(form.getByRole('alert')).toContainText('Choose a day');
  await form.getByLabel('A visit on the day of').fill('2026-10-16');
  await form.getByLabel('Who goes').selectOption('Petra Lindholm');
  await form.getByRole('button', { name: 'Plan visit' }).click();
  await expect(planned).toHaveCount(2);
  const visit = planned.first();
  await visit.getByRole('button', { name: 'Add work' }).click();
  const work = visit.getByRole('form', { name: 'Add work' });
  await work.getByLabel('To the position angle, degrees').fill('east');
  await work.getByRole('button', { name: 'Add to the visit' }).click();
  await expect(work.getByRole('alert')).toContainText('degrees between 0 and 360');
  await work.getByLabel('To the position angle, degrees').fill('71');
  await work.getByRole('button', { name: 'Add to the visit' }).click();
  await expect(visit).toContainText('to 71.0°');
  expect(await seriousFaults(page)).toEqual([]);
});

test('the season waits for the visit, and tonight does not know it', async ({ page }) => {
  await enterAs(page, 'Jonah', '/season');
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  await expect(page.getByRole('link', { name: 'waits for a visit' })).toBeVisible();
  expect(await angleNow()).toBe(12);
  await page.getByRole('link', { name: 'waits for a visit' }).click();
  await expect(page.getByRole('heading', { name: 'Visits', exact: true })).toBeVisible();
  // Who has no hands on site reads, and changes nothing.
  await expect(page.getByRole('button', { name: 'Enter measured angle' })).toHaveCount(0);
});

test('the turn is confirmed by the angle measured; the next plans use it, and undo brings the old one back', async ({
  page,
}) => {
  await enterAs(page, 'Petra Lindholm', '/visits');
  const visit = page.getByRole('region', { name: /^Visit before/ }).first();
  // What it unlocks comes later, and moves what stands under it.
  await expect(visit.getByText(/it unlocks/)).toBeVisible(PLANNED);
  await visit.getByRole('button', { name: 'Enter measured angle' }).click();
  const form = visit.getByRole('form', { name: 'Measured angle' });
  await form.getByRole('button', { name: 'Confirm angle' }).click();
  await expect(form.getByRole('alert')).toContainText('like 118.4');
  await form.getByLabel(/Position angle/).fill('78,2');
  await form.getByRole('button', { name: 'Confirm angle' }).click();
  await expect(page.getByText('Done: 78.20°, measured by Petra Lindholm')).toBeVisible();
  await expect(page.getByText(/7\.2° away from 71\.0°, more than the tolerance of 4\.0°/)).toBeVisible();
  expect(await angleNow()).toBe(78.2);
  await page.locator('body').press('z');
  await expect.poll(angleNow).toBe(12);
  await expect(page.getByRole('heading', { name: 'Made' })).toHaveCount(0);
  await visit.getByRole('button', { name: 'Enter measured angle' }).click();
  await form.getByLabel(/Position angle/).fill('70.6');
  await form.getByRole('button', { name: 'Confirm angle' }).click();
  await expect(page.getByText('Done: 70.60°')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Made' })).toBeVisible();
  await page.goto(urlOf('/season'));
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  const turned = page.getByRole('group', { name: /^Nights of .*along the diagonal/ });
  await expect(turned.getByRole('button').first()).toBeAttached(PLANNED);
  await expect(page.getByRole('link', { name: 'waits for a visit' }).filter({ hasText: 'diagonal' })).toHaveCount(0);
  await page.locator('body').press('z');
  await expect.poll(angleNow).toBe(12);
});

test('visits worth making are worked out, and one is planned from there', async ({ page }) => {
  await queryStack(`UPDATE visits SET cancelled = true`);
  await enterAs(page, 'Petra Lindholm', '/visits');
  await page.getByRole('button', { name: 'Work out which visits would help' }).click();
  const advice = page.getByRole('region', { name: 'Suggested visits' });
  await expect(advice.getByRole('button', { name: 'Plan this visit' })).toBeVisible(PLANNED);
  await expect(advice).toContainText(
    /Gains the season \d+\.\d weighted hours; unlocks \d+\.\d h of .*along the diagonal/,
  );
  await advice.getByRole('button', { name: 'Plan this visit' }).click();
  await expect(page.getByRole('region', { name: /^Visit before/ })).toContainText('to 71.0°');
});
