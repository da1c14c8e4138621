import type { Locator, Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import ICAL from 'ical.js';
import { enterAs, rigSection, seriousFaults, urlOf } from './pages.ts';
import { queryStack } from './stack.ts';

const NIGHT = '/nights/2026-10-14';
const blocks = (rig: Locator): Locator => rig.getByRole('button', { name: /^\d+: .*arrows move/ });
/** The plan as its blocks say it, once it has settled. */
const planWords = (rig: Locator): Promise<string[]> =>
  blocks(rig).evaluateAll((bars) => bars.map((bar) => bar.getAttribute('title') ?? ''));

async function openNight(page: Page, path = NIGHT): Promise<Locator> {
  await enterAs(page, 'Ilse Marwick', path);
  const rig = rigSection(page, /^Wren/);
  await expect(blocks(rig).first()).toBeEnabled();
  // Hands may move once the page has the problem.
  await expect(rig.getByLabel('Goal to ask about').getByRole('option').nth(2)).toBeAttached();
  return rig;
}

/** Opens the note of the page's first goal. */
async function noteOfGoal(page: Page): Promise<Locator> {
  await page
    .getByRole('button', { name: /^Why: .*what will be used/ })
    .first()
    .click();
  return page.getByRole('complementary', { name: 'Why' });
}

test('goals are set on six panels from a set in a handful of steps', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in six panels/ }).click();
  await page.getByRole('button', { name: /Set goals on 6 panels/ }).click();
  const form = page.getByRole('form', { name: 'Goals on all panels' });
  await form.getByLabel('Recipe 1').selectOption({ index: 1 });
  await form.getByLabel('Wanted 1').fill('2h');
  await expect(form).toContainText('60 × 120 s = 2.00 h');
  await form.getByRole('button', { name: 'Add row' }).click();
  await expect(form.getByLabel('Wanted 2')).toHaveValue('2h');
  await form.getByLabel('Wanted 2').fill('lots');
  await form.getByRole('button', { name: 'Set on 6 panels' }).click();
  await expect(form.getByRole('alert')).toContainText('Row 2: "lots" can\'t be read');
  await form.getByLabel('Wanted 2').fill('45');
  await form.getByLabel('Name of the set').fill('Broad start');
  await form.getByRole('button', { name: 'Save set' }).click();
  await expect(form.getByLabel('Set of goals').getByRole('option', { name: /Broad start/ })).toBeAttached();
  await form.getByRole('button', { name: 'Set on 6 panels' }).click();
  await expect(page.getByText(/12 goals added/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Wanted through L/ })).toHaveCount(6);
  expect(await seriousFaults(page)).toEqual([]);
  await page.locator('body').press('z');
  await expect(page.getByRole('button', { name: /^Wanted through L/ })).toHaveCount(0);
});

test('a project’s earlier settings are taken over in one step', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in colour/ }).click();
  await page.getByRole('button', { name: /Set goals on .* at once/ }).click();
  const form = page.getByRole('form', { name: 'Goals on all panels' });
  await form.getByRole('button', { name: 'as in its earlier exposures' }).click();
  const recipes = form.getByLabel(/^Recipe \d/);
  await expect.poll(() => recipes.count()).toBeGreaterThan(1);
  for (const recipe of await recipes.all()) await expect(recipe).not.toHaveValue('');
  await form.getByLabel('Wanted 1').fill('25');
  await form.getByRole('button', { name: /^Set on/ }).click();
  await expect(page.getByText(/0 goals added, [1-9]/)).toBeVisible();
});

test('a limit shows what it costs, before and while it is typed', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in colour/ }).click();
  await page.getByRole('button', { name: 'What this costs: Altitude at least, broadband' }).click();
  const picture = page.getByRole('region', { name: /What this limit costs/ });
  await expect(picture).toContainText(/costs (\d+\.\d of \d+\.\d h|nothing) in the coming 30 nights/);
  await page.getByRole('button', { name: 'Altitude at least, broadband: change' }).click();
  await page.getByRole('textbox', { name: 'Altitude at least, broadband' }).fill('75');
  await expect(picture).toContainText(/As tried it loses \d+\.\d h/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Altitude at least, broadband: change' })).not.toContainText('75');
});

test('what fits is an answer to take over', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in six panels/ }).click();
  const note = await noteOfGoal(page);
  await expect(note).toContainText(/in\s+nights \d+ more, of \d+\.\d usable hours/);
  await note.getByLabel('Nights to look ahead').fill('3');
  await expect(note.getByRole('button', { name: /^\d+ more$/ })).toHaveCount(2);
});

test('a goal has a limit of its own, which counts at once and is given back', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page.getByRole('link', { name: /in six panels/ }).click();
  const note = await noteOfGoal(page);
  const limits = note.getByRole('region', { name: /^Limits of this goal/ });
  await limits.getByRole('button', { name: 'Altitude at least, this goal: change' }).click();
  await limits.getByRole('textbox').fill('95');
  await page.keyboard.press('Enter');
  await expect(limits.getByRole('alert')).toHaveText('95 is outside 0 to 89');
  await limits.getByRole('textbox').fill('60');
  await page.keyboard.press('Enter');
  await expect(limits).toContainText('this goal’s own: reset');
  await note.getByRole('button', { name: 'Close the note' }).click();
  await noteOfGoal(page);
  await expect(limits.getByRole('button', { name: 'Altitude at least, this goal: change' })).toHaveText('60°');
  await limits.getByRole('combobox').selectOption({ label: 'Zenith kept clear' });
  await expect(limits).toContainText('Zenith kept clear');
  await limits.getByRole('button', { name: 'Reset to inherited: Altitude at least, this goal' }).click();
  await expect(limits).not.toContainText('this goal’s own');
});

test('the plan is pinned, dragged, stretched, swapped and banned by hand, and given back', async ({ page }) => {
  const rig = await openNight(page);
  const before = await planWords(rig);
  const first = blocks(rig).first();
  await first.focus();
  await page.keyboard.press('p');
  const hand = rig.getByRole('region', { name: 'By hand' });
  await expect(hand).toContainText(/set at \d\d:\d\d/);
  await expect(hand).toContainText(/without hand changes \d+\.\d\d/);
  await hand.getByRole('button', { name: 'Remove all changes' }).click();
  await expect(hand).toBeHidden();
  await expect.poll(() => planWords(rig)).toEqual(before);

  const box = (await blocks(rig).first().boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 40, box.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect(hand).toContainText(/set at/);
  await expect.poll(() => planWords(rig)).not.toEqual(before);
  await page.locator('body').press('z');
  await expect(hand).toBeHidden();

  await rig
    .getByRole('button', { name: /^By hand: / })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Not before it begins now' }).click();
  await expect(hand).toContainText(/not before \d\d:\d\d/);
  await rig
    .getByRole('button', { name: /^By hand: / })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Leave out tonight' }).click();
  await expect(hand).toContainText('left out');
  await expect(rig.getByRole('region', { name: 'Left out' })).toContainText('left out by hand');
  expect(await seriousFaults(page)).toEqual([]);
  await hand.getByRole('button', { name: 'Remove all changes' }).click();
  await expect.poll(() => planWords(rig)).toEqual(before);
});

test('a goal is asked about at a moment', async ({ page }) => {
  const rig = await openNight(page);
  const form = rig.getByRole('form', { name: 'Why at a moment' });
  await form.getByLabel('Goal to ask about').selectOption({ label: 'Haze near NGC 55 in six panels, panel 1, Ha' });
  await form.getByLabel('Time to ask about').fill('late');
  await form.getByRole('button', { name: 'Ask' }).click();
  await expect(form.getByRole('alert')).toContainText('"late" is no time of this night');
  await form.getByLabel('Time to ask about').fill('19:10');
  await form.getByRole('button', { name: 'Ask' }).click();
  await expect(form).toContainText('at 19:10: The sun is up then');
  await form.getByLabel('Time to ask about').fill('23:30');
  await form.getByRole('button', { name: 'Ask' }).click();
  await expect(form).toContainText(/at 23:30: (It is exposed then|It waits for|It could be exposed|[^:]*\.)/);
});

test('a night is looked at as if it might end at any time, and planned to hold most wherever it is cut', async ({
  page,
}) => {
  const rig = await openNight(page);
  const early = rig.getByRole('region', { name: /^If the night ends early/ });
  await early.getByRole('button', { name: /If the night ends early/ }).click();
  const rows = early.getByRole('row');
  await expect(rows.nth(2)).toContainText(/\d\d:\d\d.*\d+ %/);
  await expect(early).toContainText('The order is the one that holds most in a night that lasts.');
  const before = await planWords(rig);
  await early.getByLabel('Chance that a night ends within an hour').selectOption('30');
  await expect(early).toContainText(/The order (costs|that holds most in a night that lasts is the safest)/);
  expect(await seriousFaults(page)).toEqual([]);
  await early.getByLabel('Chance that a night ends within an hour').selectOption('0');
  await expect(early).toContainText('The order is the one that holds most in a night that lasts.');
  await expect.poll(() => planWords(rig)).toEqual(before);
});

test('a plan is published, frozen, changed with a reason, compared; the member is told', async ({ page }) => {
  const rig = await openNight(page);
  await rig.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(rig).toContainText('published, version 1');
  const file = await page.request.get(urlOf('/api/exports/nights/2026-10-14/calendar'));
  const calendar = new ICAL.Component(ICAL.parse(await file.text()) as never);
  expect(calendar.getAllSubcomponents('vevent').length).toBeGreaterThan(0);
  await rig.getByRole('button', { name: 'show the working plan' }).click();
  await rig
    .getByRole('button', { name: /^By hand: / })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Leave out tonight' }).click();
  await expect(rig.getByRole('region', { name: 'By hand' })).toContainText('left out');
  await rig.getByLabel('compare with').selectOption('v1');
  const compared = rig.getByRole('region', { name: 'Compared' });
  await expect(compared).toContainText(/Beneath: version 1, value \d+/);
  await expect(compared.getByRole('row').nth(1)).toContainText(/[+−]\d/);
  expect(page.url()).toContain('against=v1');
  // The cut-off hour of that evening is put into the past; the clock of these tests stands still.
  await queryStack(`UPDATE observatories SET cut_off_clock_min = 0`);
  await page.reload();
  await expect(rig.getByRole('button', { name: 'Publish new version' })).toBeVisible();
  await rig.getByRole('button', { name: 'Publish new version' }).click();
  await expect(rig).toContainText(/version 2/);
  await queryStack(`UPDATE observatories SET cut_off_clock_min = 1020`);
  const [{ email }] = await queryStack<{ email: string }>(
    `SELECT p.email FROM notices n JOIN people p ON p.id = n.person_id ORDER BY n.id DESC LIMIT 1`,
  );
  // An answer still on its way may set the cookie again: signed out is who is asked to sign in.
  await expect(async () => {
    await page.goto('about:blank');
    await page.context().clearCookies();
    await page.goto(urlOf('/'));
    await expect(page.getByLabel('Address')).toBeVisible({ timeout: 4000 });
  }).toPass();
  await page.getByLabel('Address').fill(email);
  await page.getByLabel('Password').fill('southern-lights');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('button', { name: /^Notifications/ }).click();
  await expect(page.getByText(/night of 2026-10-14, version 2/).first()).toBeVisible();
});

test('after the cut-off hour a change needs a reason', async ({ page }) => {
  // Tonight's own cut-off is moved before the clock of these tests.
  await queryStack(`UPDATE observatories SET cut_off_clock_min = 13 * 60`);
  const rig = await openNight(page, '/tonight?plan=working');
  await rig.getByRole('button', { name: /^Publish/ }).click();
  const reason = rig.getByRole('form', { name: 'Why the published plan changes' });
  // Where nothing was published yet, the first version needs none.
  await expect(rig.getByRole('button', { name: 'Publish new version' })).toBeVisible();
  if (!(await reason.isVisible())) await rig.getByRole('button', { name: 'Publish new version' }).click();
  await expect(reason.getByRole('button', { name: 'Publish with this reason' })).toBeDisabled();
  await reason.getByLabel('Reason').fill('the mount was serviced');
  await reason.getByRole('button', { name: 'Publish with this reason' }).click();
  await expect(rig.getByLabel('compare with').getByRole('option', { name: /the mount was serviced/ })).toBeAttached();
  await queryStack(`UPDATE observatories SET cut_off_clock_min = 1020`);
});

test('the night prints on one page', async ({ page }) => {
  const rig = await openNight(page, '/nights/2026-10-16');
  const sheets = async (): Promise<number> => {
    const printed = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
    return printed.match(/\/Type\s*\/Page[^s]/g)?.length ?? 0;
  };
  expect(await sheets()).toBe(1);
  // A night with many more changes is printed smaller; one past reading takes more sheets.
  const fill = (times: number): Promise<void> =>
    rig
      .getByRole('row')
      .last()
      .evaluate((row, count) => {
        for (let i = 0; i < count; i++) row.after(row.cloneNode(true));
      }, times);
  await fill(12);
  expect(await sheets()).toBe(1);
  await fill(60);
  expect(await sheets()).toBeGreaterThan(1);
  // What is dark on the screen is dark on white on paper.
  await page.evaluate(() => {
    document.documentElement.dataset.theme = 'ember';
    dispatchEvent(new Event('beforeprint'));
  });
  expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('paper');
  await page.evaluate(() => dispatchEvent(new Event('afterprint')));
  expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('ember');
});

test('forecasts say go, wait or no-go, and a file is taken in', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick');
  const forecast = page.getByRole('region', { name: 'Forecast' });
  await expect(forecast).toContainText(/(Go|Wait|No-go): \d+\.\d of \d+\.\d dark hours expected clear; .*agree/);
  await page.goto(urlOf('/nights/2026-12-20'));
  await expect(forecast).toContainText('No forecast covers this night.');
  await forecast.getByRole('button', { name: 'Import a file' }).click();
  const hours = Array.from({ length: 24 }, (_, i) => new Date(Date.parse('2026-12-20T03:00Z') + i * 3_600_000));
  const rows = hours.map((hour) => `Own look,${hour.toISOString()},5,2,40`);
  await forecast
    .getByRole('textbox')
    .fill(['source,hour_utc,cloud_percent,wind_m_per_s,humidity_percent', ...rows].join('\n'));
  await forecast.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(forecast).toContainText(/Go: .*the only source/);
});

test('every project has its reason, this night and the one before', async ({ page }) => {
  await enterAs(page, 'Sam Ferrow');
  await page.getByRole('button', { name: /^Every project, tonight/ }).click();
  const table = page.getByRole('region', { name: 'Every project' }).getByRole('table');
  await expect(table.getByRole('row').nth(5)).toBeVisible();
  await expect(table).toContainText(/planned|gain|too low|complete/);
  expect(await seriousFaults(page)).toEqual([]);
});
