import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults } from './pages.ts';

test('six panels from nothing to a project, by mouse', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/framing');
  await expect(page.getByText('Find a target to frame.')).toBeVisible();
  await page.getByPlaceholder('name, number, or coordinates').fill('ngc 253');
  await page
    .getByRole('list', { name: 'Found targets' })
    .getByRole('button', { name: /^NGC 253/ })
    .first()
    .click();
  const sky = page.getByRole('application', { name: /Sky around/ });
  await expect(sky).toBeVisible();
  await page.getByLabel('Rows').fill('2');
  await page.getByLabel('Columns').fill('3');
  await expect(page.getByRole('list', { name: 'What it amounts to' })).toContainText('6 panels');
  const before = await sky.getAttribute('aria-label');
  const box = (await sky.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 + 30, { steps: 6 });
  await page.mouse.up();
  await expect(sky).not.toHaveAttribute('aria-label', before!);
  expect(new URL(page.url()).searchParams.get('ra')).not.toBe('11.888');
  expect(await seriousFaults(page)).toEqual([]);
  await page.getByLabel('Name of the project').fill('Sculptor in six');
  await page.getByRole('button', { name: 'Begin a draft with these 6 panels' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Sculptor in six');
  await expect(page.getByRole('region', { name: 'Sculptor in six 6' })).toBeVisible();
});

test('a frame is moved and turned by keys, and says what its rig can’t do', async ({ page }) => {
  await enterAs(
    page,
    'Ilse Marwick',
    '/framing?target=NGC%20253&ra=11.888&dec=-70&rows=3&cols=6&angle=12&layout=one_plane',
  );
  await expect(page.getByRole('alert')).toContainText('On one plane the outer panels are turned');
  await page.getByRole('button', { name: 'Use one camera angle' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  const sky = page.getByRole('application', { name: /Sky around/ });
  await sky.focus();
  await page.keyboard.press('+');
  await expect(page.getByLabel('Angle of the upward side')).toHaveValue('13');
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => Number(new URL(page.url()).searchParams.get('dec'))).toBeGreaterThan(-70);
  await page.getByRole('button', { name: 'Back onto the target' }).click();
  await expect.poll(() => new URL(page.url()).searchParams.get('dec')).toBe('-70');
});
