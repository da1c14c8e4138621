import { expect, test } from '@playwright/test';
import { choose, enterAs, rigSection, urlOf } from './pages.ts';
import { queryStack } from './stack.ts';

test.describe.configure({ mode: 'serial' });

test('a member begins a project from the catalogue, sets goals and proposes it', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/projects');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByLabel('Find a target').fill('ngc 55');
  await page
    .getByRole('button', { name: /^NGC 55/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Create draft' }).click();
  await expect(page.getByText('Choose the rig first')).toBeVisible();
  await page.getByLabel('Name of the project').fill('NGC 55 from the walk');
  await page.getByRole('combobox', { name: /^Rig/ }).selectOption({ label: 'Heron, the long reflector' });
  await page.getByRole('button', { name: 'Create draft' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('NGC 55 from the walk');
  await expect(page.getByText('No goals yet')).toBeVisible();

  const form = page.getByRole('form', { name: /New goal/ });
  await form.getByRole('button', { name: 'Add goal' }).click();
  await expect(form.getByRole('alert')).toContainText('definite filter');
  await form.getByLabel('Recipe').selectOption({ label: 'L: L standard, 120 s' });
  await form.getByLabel('Wanted').fill('lots');
  await form.getByRole('button', { name: 'Add goal' }).click();
  await expect(form.getByRole('alert')).toContainText('write a count like 60');
  await form.getByLabel('Wanted').fill('2h');
  await expect(form).toContainText('60 × 120 s = 2.00 h');
  await form.getByRole('button', { name: 'Add goal' }).click();
  await expect(page.getByRole('button', { name: 'Wanted through L: change' })).toContainText('60');
  await expect(page.getByRole('row', { name: /L 120/ })).toContainText('2 h 00 min + ');
  await choose(page, 'State', 'Proposed');
  await expect(page.getByText('not granted').first()).toBeVisible();
});

test('the wanted count is edited in place, read aloud, saved and undone', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/projects');
  await page.getByRole('link', { name: 'NGC 55 from the walk' }).click();
  const wanted = page.getByRole('button', { name: 'Wanted through L: change' });
  await wanted.click();
  const field = page.getByLabel('Wanted through L', { exact: true });
  await field.fill('90s × 120');
  await expect(page.getByText('90 × 120 s = 3.00 h')).toBeVisible();
  await field.fill('soon');
  await field.press('Enter');
  await expect(page.getByRole('alert')).toContainText("can't be read");
  await field.fill('3h');
  await field.press('Enter');
  await expect(wanted).toContainText('90');
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Escape');
  await page.locator('main').press('z');
  await expect(page.getByText(/Undone/).first()).toBeVisible();
  await expect(wanted).toContainText('60');
});

test('a coordinator grants it, and tonight’s plan gives it time or says why not', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: 'NGC 55 from the walk' }).click();
  await choose(page, 'State', 'Granted');
  await page.goto(urlOf('/tonight'));
  await expect(rigSection(page, /^Heron/)).toContainText('NGC 55 from the walk');
});

test('every absence answers why, with numbers', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick');
  const leftOut = page.getByRole('region', { name: 'Left out' }).first();
  await leftOut.getByRole('button', { name: /^Why/ }).first().click();
  const note = page.getByRole('complementary', { name: 'Why' });
  await expect(note).toContainText(/\d/);
  await page.keyboard.press('Escape');
  await expect(note).toBeHidden();
});

test('the night is published, played and stopped; counts rise without reload', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick');
  const rig = rigSection(page, /^Heron/);
  await rig.getByRole('button', { name: 'Publish' }).click();
  await expect(rig).toContainText('published, version 1');
  await rig.getByLabel(/^Speed/).selectOption('600');
  await rig.getByRole('button', { name: 'Play on the simulated observatory' }).click();
  const line = rig.getByRole('group', { name: 'The night as it plays' });
  await expect(line).toContainText('Playing');
  await expect(line).toContainText(/[2-9] of \d+ exposures/);
  await expect(line).toContainText(/Now .* through/);
  await expect(line).toContainText(/Next .* at \d\d:\d\d/);
  await rig.getByRole('button', { name: 'Stop' }).click();
  await expect(line).toContainText('Stopped by hand');
});

test('a verdict in the ledger is seen in the project, the list and tonight’s wants without reload', async ({
  browser,
}) => {
  // A goal that has just what it wants: with one exposure rejected it wants one more, tonight.
  const [{ name, letter, wanted }] = await queryStack<{ name: string; letter: string; wanted: number }>(
    `SELECT p.name, f.letter, g.wanted FROM goals g JOIN goal_totals t ON t.goal_id = g.id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
     JOIN rigs r ON r.id = p.rig_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes c ON c.id = v.recipe_id JOIN filters f ON f.id = c.filter_id
     WHERE p.state = 'granted' AND NOT p.resting AND g.enabled AND r.name LIKE 'Heron%' AND t.undecided = 0 AND t.accepted = g.wanted ORDER BY p.name, f.letter LIMIT 1`,
  );
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const ledger = await context.newPage();
  await enterAs(ledger, 'Ilse Marwick', '/ledger');
  await ledger.getByLabel('Project').selectOption({ label: name });
  await ledger.getByLabel('Filter').selectOption({ label: letter });
  await ledger.getByLabel('Verdict').selectOption('accepted');
  await expect(ledger.getByText(`${wanted} accepted`)).toBeVisible();

  const list = await context.newPage();
  await list.goto(urlOf('/projects'));
  const row = list.getByRole('row').filter({ has: list.getByRole('link', { name, exact: true }) });
  await expect(row).toContainText(`${wanted}/${wanted}`);
  const detail = await context.newPage();
  await detail.goto(urlOf('/projects'));
  await detail.getByRole('link', { name, exact: true }).click();
  const goal = detail.getByRole('row', { name: new RegExp(`^${letter} \\d`) });
  await expect(goal).toContainText('complete');
  const tonight = await context.newPage();
  await tonight.goto(urlOf('/tonight?plan=working'));
  const rig = rigSection(tonight, /^Heron/);
  await expect(rig).toContainText(name);
  const wantsMore = rig
    .getByRole('row')
    .or(rig.getByRole('listitem'))
    .filter({ hasText: name })
    .getByText(letter, { exact: true });
  await expect(wantsMore).toHaveCount(0);

  const grid = ledger.getByRole('grid', { name: 'Exposures' });
  await grid.focus();
  await ledger.keyboard.press('r');
  await expect(ledger.getByRole('dialog')).toContainText('Reject this exposure because of');
  await ledger.keyboard.press('1');
  await expect(ledger.getByText(`${wanted - 1} accepted`)).toBeVisible();
  await expect(row).toContainText(`${wanted - 1}/${wanted}`);
  await expect(goal).not.toContainText('complete');
  await expect(wantsMore).not.toHaveCount(0);

  await ledger.locator('main').press('z');
  await expect(ledger.getByText(`${wanted} accepted`)).toBeVisible();
  await expect(row).toContainText(`${wanted}/${wanted}`);
  await expect(goal).toContainText('complete');
  await expect(wantsMore).toHaveCount(0);
  await context.close();
});

test('verdicts are given in bulk, filtered and kept', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/ledger');
  await page.getByLabel('Verdict').selectOption('undecided');
  await expect(page).toHaveURL(/verdict=undecided/);
  const boxes = page.getByRole('checkbox');
  for (let i = 0; i < 3; i++) await boxes.nth(i).check();
  await expect(page.getByText('3 selected:')).toBeVisible();
  await page.getByRole('button', { name: /^accepted/ }).click();
  await expect(page.getByText('3 accepted; z undoes it')).toBeVisible();
});

test('the observatory is checked by its sunset and shows what a change of optics does', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/observatory');
  await expect(page.getByText(/Local sunset tonight is \d\d:\d\d.*The noon sun is in the north/)).toBeVisible();
  const rig = page.getByRole('region', { name: /^Wren/ });
  await expect(rig).toContainText('1.56° × 1.17°');
  const revision = Number(/revision (\d+)/.exec(await rig.innerText())?.[1]);
  await rig.getByRole('button', { name: /^Telescope/ }).click();
  await rig.getByRole('button', { name: 'Focal length, Wren, the wide refractor: change' }).click();
  await rig.getByLabel('Focal length, Wren, the wide refractor').fill('53');
  await page.keyboard.press('Enter');
  const touched = page.getByRole('dialog');
  await expect(touched).toContainText(/share at least 9\d % instead of 20 %/);
  await touched.getByRole('button', { name: 'Cancel' }).click();
  await expect(rig.getByLabel('Focal length, Wren, the wide refractor')).toHaveValue('53');
  await rig.getByLabel('Focal length, Wren, the wide refractor').press('Enter');
  await touched.getByRole('button', { name: 'Save change' }).click();
  await expect(rig.getByRole('alert').first()).toContainText(
    'The focal ratio would be f/0.5: check focal length and aperture, both in mm.',
  );
  await rig.getByRole('button', { name: 'Focal length, Wren, the wide refractor: change' }).click();
  await rig.getByLabel('Focal length, Wren, the wide refractor').fill('530');
  await page.keyboard.press('Enter');
  await touched.getByRole('button', { name: 'Save change' }).click();
  await expect(rig).toContainText(`revision ${revision + 2}`);
  await page.getByRole('button', { name: 'Edit points' }).click();
  await page.getByRole('textbox', { name: /A point a line/ }).fill('0 10\nnorth 5');
  await page.getByRole('button', { name: 'Save horizon' }).click();
  await expect(page.getByRole('alert')).toContainText('Line 2');
});
