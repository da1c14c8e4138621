// From the printed link to a plan for tonight, in an observatory founded from nothing: no row comes from anywhere else.
import type { Browser, Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import type { EmptyStack } from './stack.ts';
import { startEmptyStack } from './stack.ts';
import { Walk } from './walk.ts';

const PASSWORD = 'a long enough password';
const PLANNED = { timeout: 270_000 };

let stack: EmptyStack;
test.beforeEach(async () => {
  stack = await startEmptyStack();
});
test.afterEach(() => stack.stop());

const newPage = async (browser: Browser): Promise<Page> =>
  (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();

async function found(walk: Walk): Promise<void> {
  const { page } = walk;
  await page.goto(stack.link);
  await walk.fill('Name of the observatory', 'Greywater Flat');
  await walk.fill('Time zone', 'Australia/Adelaide');
  await walk.fill(page.getByLabel(/^Latitude/), `31° 37' 12" S`);
  await walk.fill(page.getByLabel(/^Longitude/), '137.85 E');
  await walk.fill(page.getByLabel(/^Elevation/), '610');
  await expect(page.getByText('Local sunset tonight is')).toBeVisible();
  await walk.fill('Your name', 'Odile Renner');
  await walk.fill(page.getByLabel(/^E-mail address/), 'odile@greywater.example');
  await walk.fill(page.getByLabel(/^Password/), PASSWORD);
  await walk.click('Found the observatory');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Greywater Flat');
}

interface TypedRig {
  readonly name: string;
  readonly focalLengthMm: string;
  readonly apertureMm: string;
  readonly serial: string;
  readonly mode: string;
  readonly drawer?: boolean;
  readonly places?: string;
}

async function addRig(walk: Walk, rig: TypedRig): Promise<void> {
  const form = walk.page.getByRole('region', { name: 'New rig' });
  await walk.fill(form.getByLabel('Name of the rig'), rig.name);
  await walk.fill(form.getByLabel(/^Focal length/), rig.focalLengthMm);
  await walk.fill(form.getByLabel(/^Aperture/), rig.apertureMm);
  await walk.fill(form.getByLabel(/serial number/), rig.serial);
  await walk.fill(form.getByLabel(/^Pixel/), '5');
  await walk.fill(form.getByLabel(/^Sensor width/), '3000');
  await walk.fill(form.getByLabel(/^Sensor height/), '2000');
  await walk.fill(form.getByLabel(/^Camera mode/), rig.mode);
  await walk.fill(form.getByLabel(/^Gain/), '100');
  await walk.fill(form.getByLabel(/^Read noise/), '1.6');
  await walk.fill(form.getByLabel(/^Full well/), '40000');
  await walk.fill(form.getByLabel(/^Camera angle/), '0');
  if (rig.drawer) await walk.select(form.getByLabel('Filters are'), /drawer/);
  if (rig.places) await walk.fill(form.getByLabel('Places in the wheel'), rig.places);
  await walk.click(form.getByRole('button', { name: 'Add rig' }));
  await expect(walk.page.getByRole('region', { name: rig.name, exact: true })).toBeVisible();
}

async function addFilter(walk: Walk, [letter, name, kind, centre, width]: readonly string[]): Promise<void> {
  await walk.click('Add a filter');
  const form = walk.page.getByRole('form', { name: 'New filter' });
  await walk.fill(form.getByLabel(/^Short name/), letter);
  await walk.fill(form.getByLabel('Name', { exact: true }), name);
  await walk.choose(form, /^Class of the new filter/, kind);
  await walk.fill(form.getByLabel(/^Centre/), centre);
  await walk.fill(form.getByLabel(/^Width/), width);
  await walk.click(form.getByRole('button', { name: 'Add filter' }));
  await expect(walk.page.getByRole('region', { name: 'Filters' }).getByText(name)).toBeVisible();
}

interface TypedRecipe {
  readonly name: string;
  readonly filter: RegExp;
  readonly exposure: string;
  readonly rig?: string;
  readonly kind?: string;
}

async function addRecipe(walk: Walk, { name, filter, exposure, rig, kind }: TypedRecipe): Promise<void> {
  const form = walk.page.getByRole('form', { name: 'New recipe' });
  if (rig) await walk.choose(form, /^Rig: /, rig);
  if (kind) await walk.choose(form, /^Kind of frame/, kind);
  else await walk.choose(form, /^Filter: /, filter);
  await walk.fill(form.getByLabel('Name of the recipe'), name);
  await walk.fill(form.getByLabel('Exposure in seconds'), exposure);
  await walk.click(form.getByRole('button', { name: 'Add recipe' }));
  await expect(walk.page.getByRole('button', { name: new RegExp(`^Name of ${name}`) })).toBeVisible();
}

test('an observatory is founded and its first night published, in a countable number of steps', async ({ page }) => {
  const walk = new Walk(page);
  await found(walk);
  await addRig(walk, { name: 'Plover', focalLengthMm: '500', apertureMm: '100', serial: 'PL-1', mode: 'High gain' });
  await addRecipe(walk, { name: 'L short', filter: /^L,/, exposure: '120' });
  await addRecipe(walk, { name: 'Ha long', filter: /^Ha,/, exposure: '300' });
  await walk.click(page.getByRole('link', { name: 'Projects' }));
  await walk.click('New project');
  await walk.fill('Find a target', 'ngc 253');
  await walk.click(page.getByRole('button', { name: /^NGC 253/ }).first());
  await walk.select(page.getByRole('combobox', { name: /^Rig/ }), 'Plover');
  await walk.click('Create draft');
  for (const [recipe, wanted] of [
    [/L short/, '60'],
    [/Ha long/, '3h'],
  ] as const) {
    const form = page.getByRole('form', { name: /New goal/ });
    await walk.select(form.getByLabel('Recipe'), recipe);
    await walk.fill(form.getByLabel('Wanted'), wanted);
    await walk.click(form.getByRole('button', { name: 'Add goal' }));
  }
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(2);
  await walk.choose(page, /^State: /, 'Granted');
  await expect(page.getByRole('button', { name: 'State: Granted' })).toBeVisible();
  await walk.click(page.getByRole('link', { name: 'Tonight' }));
  const rig = page.getByRole('region', { name: 'Plover', exact: true });
  await walk.click(rig.getByRole('button', { name: 'Publish' }));
  await expect(rig).toContainText('published, version 1');
  await expect(rig.getByText(/^NGC 253/).first()).toBeVisible();
  console.log(`founding to a published plan: ${walk.actions} actions`);
  expect(walk.actions).toBeLessThanOrEqual(90);

  const before = walk.actions;
  await walk.click(page.getByRole('link', { name: 'Projects' }));
  await walk.click(page.getByRole('link', { name: 'Frame a target' }));
  await walk.fill(page.getByPlaceholder('name, number, or coordinates'), 'ngc 55');
  const foundTargets = page.getByRole('list', { name: 'Found targets' });
  await walk.click(foundTargets.getByRole('button', { name: /^NGC 55/ }).first());
  await walk.fill('Rows', '2');
  await walk.fill('Columns', '3');
  await walk.fill('Name of the project', 'NGC 55 in six');
  await walk.click('Begin a draft with these 6 panels');
  await walk.click(page.getByRole('button', { name: /Set goals on 6 panels/ }));
  const goals = page.getByRole('form', { name: 'Goals on all panels' });
  await walk.select(goals.getByLabel('Recipe 1'), /L short/);
  await walk.fill(goals.getByLabel('Wanted 1'), '30');
  await walk.click(goals.getByRole('button', { name: 'Add row' }));
  await walk.select(goals.getByLabel('Recipe 2'), /Ha long/);
  await walk.click(goals.getByRole('button', { name: 'Set on 6 panels' }));
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(12);
  console.log(`goals on six panels: ${walk.actions - before} actions`);
  expect(walk.actions - before).toBeLessThanOrEqual(30);
});

test('a station of two rigs is built by hand: modes, filters, a drawer, recipes, limits, members, a mosaic and a comet', async ({
  browser,
}) => {
  test.setTimeout(900_000);
  const page = await newPage(browser);
  const walk = new Walk(page);
  await found(walk);
  await addRig(walk, { name: 'Plover', focalLengthMm: '500', apertureMm: '100', serial: 'PL-1', mode: 'High gain', places: '9' }); // prettier-ignore
  const plover = page.getByRole('region', { name: 'Plover', exact: true });
  await addFilter(walk, ['Hb', 'Hydrogen beta, 7 nm', 'narrowband', '486.1', '7']);
  await addFilter(walk, ['UV', 'Near ultraviolet', 'broadband', '365', '60']);
  await expect(page.getByRole('region', { name: 'Filters' }).getByRole('row')).toHaveCount(10);
  await walk.click(plover.getByRole('button', { name: /^Filters/ }));
  await walk.click('Change the filters of Plover');
  await walk.select(plover.getByLabel('Filter in place 8'), /^Hb/);
  await walk.select(plover.getByLabel('Filter in place 9'), /^UV/);
  await walk.fill(plover.getByLabel('Focus offset of place 1'), '0');
  await walk.fill(plover.getByLabel('Focus offset of place 5'), '42');
  await walk.click(plover.getByRole('button', { name: 'Save filters' }));
  const touched = page.getByRole('dialog');
  await walk.click(touched.getByRole('button', { name: 'Save change' }));
  await expect(plover).toContainText('a wheel of 9, full');
  await walk.click(plover.getByRole('button', { name: /^Camera modes/ }));
  const newMode = plover.getByRole('form', { name: 'New mode of Plover' });
  await walk.fill(newMode.getByLabel('Name of the mode'), 'Low gain');
  await walk.fill(newMode.getByLabel('Gain of the mode'), '20');
  await walk.click(newMode.getByRole('button', { name: 'Add mode' }));
  await walk.edit(plover, 'Full well of Low gain, Plover', '60000');
  await expect(plover).toContainText('corrected, revision 2');

  await walk.click('Add a rig');
  await addRig(walk, { name: 'Dotterel', focalLengthMm: '1200', apertureMm: '200', serial: 'DO-1', mode: 'Standard gain', drawer: true }); // prettier-ignore
  const dotterel = page.getByRole('region', { name: 'Dotterel', exact: true });
  await expect(dotterel).toContainText('a drawer, changed on site');
  await walk.click(dotterel.getByRole('button', { name: /^Mount/ }));
  await walk.edit(dotterel, 'Parked at, Dotterel', '20°, 180°');
  await expect(dotterel).toContainText('parked at 20°, 180°');
  await walk.click(dotterel.getByRole('button', { name: /^Times/ }));
  await walk.edit(dotterel, 'Meridian flip, Dotterel', '200');

  await addRecipe(walk, { name: 'L short', filter: /^L,/, exposure: '120' });
  await addRecipe(walk, { name: 'Ha long', filter: /^Ha,/, exposure: '300' });
  await addRecipe(walk, { name: 'Dark 300', filter: /./, kind: 'dark', exposure: '300' });
  await addRecipe(walk, { name: 'L of the drawer', filter: /^L,/, exposure: '60', rig: 'Dotterel' });
  const form = page.getByRole('form', { name: 'New recipe' });
  await walk.click(form.getByRole('button', { name: /^Filter: / }));
  await expect(page.getByRole('option', { name: /^Ha,/ })).toContainText('needs the drawer changed');
  await page.keyboard.press('Escape');
  const limits = page.getByRole('region', { name: 'Limits' });
  await walk.edit(limits, 'Altitude at least, broadband', '30');
  await expect(limits.getByRole('button', { name: 'Altitude at least, broadband: change' })).toContainText('30°');

  await walk.click(page.getByRole('link', { name: 'Members' }));
  const invite = page.getByRole('region', { name: 'Invite' });
  await walk.fill(invite.getByLabel('Name', { exact: true }), 'Tamsin Orr');
  await walk.fill(invite.getByLabel('E-mail address'), 'tamsin@greywater.example');
  await walk.fill(invite.getByLabel('Time zone'), 'Europe/Dublin');
  await walk.click(invite.getByRole('button', { name: 'Make the link' }));
  const link = await page.getByLabel('One-time link').inputValue();
  const member = new Walk(await newPage(browser));
  await member.page.goto(link);
  await member.fill(member.page.getByLabel(/^Password/), PASSWORD);
  await member.click('Enter');
  await expect(member.page.getByText('Tamsin Orr, member')).toBeVisible();

  await mosaicWithAlternatingFilters(member);
  await cometFromTheShelf(member);
  for (const name of ['NGC 253 in six', 'C/2026 Y1 (Made up)']) {
    await walk.click(page.getByRole('link', { name: 'Projects' }));
    await walk.click(page.getByRole('link', { name }));
    await walk.choose(page, /^State: /, 'Granted');
    await expect(page.getByRole('button', { name: 'State: Granted' })).toBeVisible();
  }
  await walk.click(page.getByRole('link', { name: 'Tonight' }));
  const tonight = page.getByRole('region', { name: 'Plover', exact: true });
  await expect(tonight.getByRole('button', { name: /^1: NGC 253/ })).toBeVisible(PLANNED);
  await expect(tonight).not.toContainText('camera angle unknown');
  await expect(tonight.getByRole('button', { name: /^\d: C\/2026 Y1/ })).toBeVisible();
  for (const one of [page, member.page]) await one.context().close();
});

async function mosaicWithAlternatingFilters(member: Walk): Promise<void> {
  const { page } = member;
  await member.click(page.getByRole('link', { name: 'Projects' }));
  await member.click(page.getByRole('link', { name: 'Frame a target' }));
  await member.fill(page.getByPlaceholder('name, number, or coordinates'), 'ngc 253');
  await member.click(page.getByRole('list', { name: 'Found targets' }).getByRole('button', { name: /^NGC 253/ }).first()); // prettier-ignore
  await member.fill('Rows', '2');
  await member.fill('Columns', '3');
  await member.fill('Name of the project', 'NGC 253 in six');
  await member.click('Begin a draft with these 6 panels');
  await member.click(page.getByRole('button', { name: /Set goals on 6 panels/ }));
  const goals = page.getByRole('form', { name: 'Goals on all panels' });
  await expect(goals.getByRole('option', { name: /Dark 300/ })).toHaveCount(0);
  await member.select(goals.getByLabel('Recipe 1'), /L short/);
  await member.fill(goals.getByLabel('Wanted 1'), '30');
  await member.click(goals.getByRole('button', { name: 'Add row' }));
  await member.select(goals.getByLabel('Recipe 2'), /Ha long/);
  await member.click(goals.getByRole('button', { name: 'Set on 6 panels' }));
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(12);
  await member.choose(page, /^Filters: /, /alternating, 2 of each/);
  await expect(page.getByRole('button', { name: /^Filters: .*2 of each/ })).toBeVisible();
  await member.choose(page, /^State: /, 'Proposed');
  await expect(page.getByRole('button', { name: 'State: Proposed' })).toBeVisible();
}

async function cometFromTheShelf(member: Walk): Promise<void> {
  const { page } = member;
  await member.click(page.getByRole('link', { name: 'Finder' }));
  await member.click(page.getByRole('button', { name: 'The shelf' }));
  const cells: [number, string][] = [[1, '    CK26Y010'], [15, '2026 11 14.2500'], [31, ' 2.104500'], [42, '0.998700'], [52, '200.1200'], [62, '200.3400'], [72, ' 67.5600'], [82, '20261001'], [103, 'C/2026 Y1 (Made up)']]; // prettier-ignore
  const line = cells.reduce((text, [column, cell]) => text.padEnd(column - 1) + cell, '');
  const keep = page.getByRole('form', { name: 'Add comets and minor planets' });
  await member.fill(keep.getByRole('textbox'), line);
  await member.click(keep.getByRole('button', { name: 'Keep them' }));
  const row = page.getByRole('row', { name: /C\/2026 Y1/ });
  await member.click(row.getByRole('link', { name: 'New project' }));
  await expect(page.getByRole('form', { name: 'New project' })).toContainText('It moves: plans point at where it is');
  await member.select(page.getByRole('combobox', { name: /^Rig/ }), 'Plover');
  await member.click('Create draft');
  const form = page.getByRole('form', { name: /New goal/ });
  await member.select(form.getByLabel('Recipe'), /L short/);
  await member.fill(form.getByLabel('Wanted'), '20');
  await member.click(form.getByRole('button', { name: 'Add goal' }));
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(1);
  await member.choose(page, /^State: /, 'Proposed');
  await expect(page.getByRole('button', { name: 'State: Proposed' })).toBeVisible();
}
