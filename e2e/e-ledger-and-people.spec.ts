import { expect, test } from '@playwright/test';
import { frameFile } from './frames.ts';
import { choose, enterAs, seriousFaults, urlOf } from './pages.ts';
import { queryStack } from './stack.ts';

test.describe.configure({ mode: 'serial' });

interface PanelRow {
  readonly raDeg: number;
  readonly decDeg: number;
  readonly project: string;
  readonly camera: string;
}

const panelOf = async (owner: string): Promise<PanelRow> => {
  const [row] = await queryStack<PanelRow>(
    `SELECT w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", p.name AS project, c.serial AS camera
     FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
     JOIN panel_pointings w ON w.panel_id = l.id JOIN rig_revisions v ON v.rig_id = p.rig_id AND v.during @> now() JOIN cameras c ON c.id = v.camera_id
     JOIN recipe_revisions x ON x.id = g.recipe_revision_id JOIN recipes r ON r.id = x.recipe_id JOIN filters f ON f.id = r.filter_id
     WHERE f.letter = 'L' AND o.name = '${owner}' AND p.state = 'granted' ORDER BY p.name, l.position LIMIT 1`,
  );
  return row;
};

test('frames are looked at before they count, a doubtful one is matched by hand, one undo takes all back', async ({
  page,
}) => {
  const panel = await panelOf('Ruan Aldous');
  const at = (i: number) => ({
    ...panel,
    filter: 'Lum',
    startIso: `2026-09-12T12:0${i}:00.250`,
    exposureSec: 120,
    pixel: 100 * i,
    name: `light-${i}.fits`,
  });
  const files = [
    frameFile(at(1)),
    frameFile(at(2)),
    frameFile({ ...at(3), decDeg: panel.decDeg + 0.09 }),
    frameFile({ ...at(4), filter: '' }),
    { name: 'notes.fits', mimeType: 'text/plain', buffer: Buffer.from('no frame at all') },
  ];
  await enterAs(page, 'Ruan Aldous', '/ledger');
  const total = page.getByText(/^\d+ undecided$/);
  const before = await total.textContent();
  await page.getByRole('link', { name: 'Import', exact: true }).click();
  await page.getByLabel('Choose files').setInputFiles(files);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('light-1.fits and 4 more');
  await expect(page.getByRole('region', { name: 'ready' })).toContainText('2 files');
  await expect(page.getByRole('region', { name: 'ready' })).toContainText(panel.project);
  const look = page.getByRole('region', { name: 'to look at' });
  await expect(look).toContainText(/covers \d\d %/);
  await expect(page.getByRole('region', { name: 'can’t be read' })).toContainText('no FITS file');
  expect(await seriousFaults(page)).toEqual([]);
  await look.getByRole('button', { name: 'Yes, this panel' }).click();
  await expect(page.getByRole('region', { name: 'ready' }).getByRole('listitem')).toHaveCount(2);
  const choose = page.getByRole('region', { name: 'to choose' });
  await choose.getByLabel('Filter').selectOption({ label: 'L' });
  await expect(page.getByRole('button', { name: 'Write 4 into the ledger' })).toBeEnabled();
  await page.getByRole('button', { name: 'Write 4 into the ledger' }).click();
  await expect(page.getByText('In the ledger; undo removes it')).toBeVisible();
  await page.goto(urlOf('/ledger'));
  await expect(total).not.toHaveText(before!);
  await page.locator('main').press('z');
  await expect(page.getByText(/Undone: Imported 4 exposures/)).toBeVisible();
  await expect(total).toHaveText(before!);
});

test('two people who change the same wish see both values and choose; what is typed outlives a reload', async ({
  browser,
}) => {
  const one = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const two = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const { project } = await panelOf('Ruan Aldous');
  for (const [page, name] of [
    [one, 'Ruan Aldous'],
    [two, 'Ilse Marwick'],
  ] as const) {
    await enterAs(page, name, '/projects');
    await page.getByRole('link', { name: project, exact: true }).click();
  }
  const wanted = (page: typeof one) => page.getByRole('button', { name: 'Wanted through L: change' }).first();
  const field = (page: typeof one) => page.getByLabel('Wanted through L', { exact: true });
  await wanted(two).click();
  await field(two).fill('77');
  await two.reload();
  await expect(field(two)).toHaveValue('77');
  await wanted(one).click();
  await field(one).fill('66');
  await field(one).press('Enter');
  await expect(wanted(one)).toContainText('66');
  await field(two).press('Enter');
  const alert = two
    .getByRole('alert')
    .filter({ hasText: /(changed since|has since changed this) to 66; yours is 77/i });
  await alert.getByRole('button', { name: 'Keep mine, 77' }).click();
  await expect(wanted(one)).toContainText('77');
  for (const page of [one, two]) await page.context().close();
});

test('a period is reviewed over all projects', async ({ page }) => {
  await enterAs(page, 'Sam Ferrow', '/ledger');
  await page.getByRole('link', { name: 'Review a period' }).click();
  await expect(page.getByText(/\d+\.\d ?h accepted in \d+ exposures/)).toBeVisible();
  await page.getByLabel('from the night of').fill('2021-01-01');
  await page.getByLabel('to that of').fill('2021-01-31');
  await expect(page.getByText('Nothing was exposed in these nights.')).toBeVisible();
});

test('the list of projects is narrowed, and says which panel holds a mosaic back', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/projects');
  const rows = page.getByRole('table').getByRole('row');
  const all = await rows.count();
  await choose(page, 'Show', 'my projects');
  await expect.poll(() => rows.count()).toBeLessThan(all);
  for (const row of (await rows.all()).slice(1)) await expect(row).toContainText('Ruan Aldous');
  await choose(page, 'Show', 'projects held back by one panel');
  await expect(page.getByRole('row', { name: /panel \d holds it back/ }).first()).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Show: projects held back by one panel' })).toBeVisible();
});

test('a project is copied with its goals, and without what was gathered', async ({ page }) => {
  const { project } = await panelOf('Ruan Aldous');
  await enterAs(page, 'Jonah Teague', '/projects');
  await page.getByRole('link', { name: project, exact: true }).click();
  await page.getByRole('button', { name: 'copy', exact: true }).click();
  await page.getByLabel('Name of the copy').fill('A second look');
  await page.getByRole('button', { name: 'Create draft' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A second look');
  await expect(page.getByText('Jonah Teague · ')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Nights' })).toContainText('none yet');
  await expect(page.getByRole('button', { name: 'Wanted through L: change' }).first()).toBeVisible();
});

test('rules are tried out before they are set', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/observatory');
  await page
    .getByRole('region', { name: /^Heron/ })
    .getByRole('button', { name: /^Judging/ })
    .click();
  const rules = page.getByRole('region', { name: /^Judging rules, Heron/ });
  const guiding = rules.getByLabel(/^Guiding worse than usual/);
  await guiding.fill('lots');
  await expect(rules).toContainText('Write a number of sigmas from 1 to 20');
  await guiding.fill('2');
  await expect(rules).toContainText(/these rules would reject \d+/);
  await rules.getByRole('button', { name: 'Save rules' }).click();
  await expect(rules).toContainText('set by Ilse Marwick');
  await expect(guiding).toHaveValue('2');
});

test('somebody is invited by a link, enters once with it, and is suspended', async ({ browser }) => {
  const coordinator = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await enterAs(coordinator, 'Ilse Marwick', '/members');
  const form = coordinator.getByRole('region', { name: 'Invite' });
  await form.getByRole('button', { name: 'Make the link' }).click();
  await expect(form.getByText('A name is needed')).toBeVisible();
  await form.getByLabel('Name', { exact: true }).fill('Tamsin Orr');
  await form.getByLabel('E-mail address').fill('tamsin@saltbush.example');
  await form.getByLabel('Time zone').fill('Europe/Dublin');
  await form.getByRole('button', { name: 'Make the link' }).click();
  const link = await coordinator.getByLabel('One-time link').inputValue();

  const guest = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await guest.goto(link);
  await expect(guest.getByText('Tamsin Orr, you are invited')).toBeVisible();
  await guest.getByLabel(/^Password/).fill('short');
  await guest.getByRole('button', { name: 'Enter' }).click();
  await expect(guest.getByText('At least 10 characters')).toBeVisible();
  await guest.getByLabel(/^Password/).fill('a long enough password');
  await guest.getByRole('button', { name: 'Enter' }).click();
  await expect(guest.getByRole('navigation', { name: 'Pages' })).toBeVisible();
  await expect(guest.getByText('Tamsin Orr, member')).toBeVisible();

  const row = coordinator.getByRole('row').filter({ hasText: 'Tamsin Orr' });
  await row.getByRole('button', { name: 'suspend' }).click();
  await expect(row).toContainText('suspended');
  await guest.goto(urlOf('/projects'));
  await expect(guest.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await guest.goto(link);
  await expect(guest.getByText('used or has expired')).toBeVisible();
  for (const page of [coordinator, guest]) await page.context().close();
});

test('times are shown in the observatory’s zone, UTC and one’s own, always named', async ({ page }) => {
  await enterAs(page, 'Mirela Costin');
  for (const words of ['Australia/Adelaide, the observatory’s', 'UTC', 'Europe/Bucharest, yours']) {
    await expect(page.getByText(`times in ${words}`)).toBeVisible();
    await page.locator('main').press('t');
    await page.keyboard.press('z');
  }
});
