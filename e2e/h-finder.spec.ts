import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults, urlOf } from './pages.ts';

test('from what is worth the nights to a framed mosaic with goals', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/finder');
  await expect(page.getByText(/\d+ targets, times in/)).toBeVisible({ timeout: 180_000 });
  await page.getByRole('row').nth(1).getByRole('button').click();
  const chosen = page.getByRole('region', { name: 'The chosen target' });
  await expect(chosen).toContainText(/Highest at \d\d:\d\d due|Highest by day/);
  await expect(chosen.getByRole('img', { name: /through the coming year/ })).toBeVisible();
  await page.getByLabel('look up').fill('ngc 300');
  await page
    .getByRole('list', { name: 'Found targets' })
    .getByRole('button', { name: /^NGC 300/ })
    .first()
    .click();
  await expect(chosen.getByRole('heading')).toContainText('NGC 300');
  expect(await seriousFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Frame it' }).click();
  await page.getByText('Suggest a layout').click();
  await page.getByRole('button', { name: 'Suggest a layout for the subject' }).click();
  const fitted = page.getByRole('region', { name: 'Suggest a layout' });
  await expect(fitted.getByRole('row').nth(1)).toContainText('fits');
  await fitted.getByRole('button', { name: /^Take/ }).first().click();
  await page.getByLabel('Rows').fill('2');
  await page.getByLabel('Columns').fill('3');
  await page.getByText('Stars in the field').click();
  await expect(page.getByRole('list', { name: 'Stars in the field' })).toContainText(/stars to join panels/);
  await page.getByLabel('Name of the project').fill('Pinwheel in six');
  await page.getByRole('button', { name: 'Begin a draft with these 6 panels' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Pinwheel in six');
  await expect(page.getByRole('region', { name: 'Pinwheel in six, panel 6' })).toBeVisible();
  const goal = page.getByRole('form', { name: /New goal/ }).first();
  await goal.getByLabel('Recipe').selectOption({ index: 1 });
  await goal.getByLabel('Wanted').fill('2h');
  await goal.getByLabel(/panels/).check();
  await goal.getByRole('button', { name: 'Add goal' }).click();
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(6);
});

test('tonight’s whole sky is chosen from, and candidates stand side by side', async ({ page }) => {
  await enterAs(page, 'Sam Ferrow', '/finder?view=sky');
  await expect(page.getByText(/\d+ targets, times in/)).toBeVisible({ timeout: 180_000 });
  const sky = page.getByRole('region', { name: 'Tonight’s whole sky' });
  await sky.getByRole('slider').focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowRight');
  await sky
    .getByRole('button', { name: /high in the/ })
    .first()
    .press('Enter');
  await expect(page.getByRole('region', { name: 'The chosen target' })).toBeVisible();
  await page.getByRole('button', { name: 'Best targets' }).click();
  for (const row of [1, 2, 3])
    await page.getByRole('table').first().getByRole('row').nth(row).getByRole('checkbox').click();
  const beside = page.getByRole('region', { name: 'Side by side' });
  await expect(beside.getByRole('columnheader')).toHaveCount(4);
  await expect(beside).toContainText('season');
  expect(await seriousFaults(page)).toEqual([]);
});

test('the shelf keeps what moves, and says what is wrong with a line', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/finder?view=shelf');
  const form = page.getByRole('form', { name: 'Add comets and minor planets' });
  const cells: [number, string][] = [[1, '    CK26Y010'], [15, '2027 02 14.2500'], [31, ' 2.104500'], [42, '0.998700'], [52, ' 85.1200'], [62, '120.3400'], [72, ' 67.5600'], [82, '20250101'], [103, 'C/2026 Y1 (Made up)']]; // prettier-ignore
  const line = cells.reduce((text, [column, cell]) => text.padEnd(column - 1) + cell, '');
  await form.getByRole('textbox').fill(`${line}\nnot an orbit at all`);
  await form.getByRole('button', { name: 'Keep them' }).click();
  await expect(form).toContainText('Kept: C/2026 Y1 (Made up).');
  await expect(form).toContainText('Line 2: Columns 15 to 18 should hold the year of perihelion');
  const row = page.getByRole('row', { name: /C\/2026 Y1/ });
  await expect(row).toContainText('″ a minute towards');
  await expect(row).toContainText('its elements are old: fetch newer ones before pointing');
  const theme = page.getByRole('form', { name: 'A new theme' });
  await theme.getByRole('textbox').fill('Visitors');
  await theme.getByRole('button', { name: 'Add the theme' }).click();
  await row.getByLabel(/Visitors/).click();
  await expect(row.getByLabel(/Visitors/)).toBeChecked();
  expect(await seriousFaults(page)).toEqual([]);
});

test('what is never high enough, and a name nobody knows, are said at once', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/finder');
  await expect(page.getByText(/\d+ targets, times in/)).toBeVisible({ timeout: 180_000 });
  await page.getByLabel('look up').fill('M 81');
  await page.getByRole('list', { name: 'Found targets' }).getByRole('button', { name: /^M 81/ }).first().click();
  await expect(page.getByRole('region', { name: 'The chosen target' })).toContainText(
    /Never (rises here|high enough here)/,
  );
  await page.getByLabel('look up').fill('zzxqy');
  await expect(page.getByText('Nothing of that name. Try a catalogue number, or type the coordinates.')).toBeVisible();
});

test('a project with exposures is framed anew, told before, and taken back whole', async ({ page }) => {
  await enterAs(page, 'Ilse Marwick', '/projects');
  await page
    .getByRole('link', { name: /in colour/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Limits', exact: true })).toBeVisible();
  const address = page.url();
  const id = address.split('/').at(-1)!;
  type Place = {
    raDeg: number;
    decDeg: number;
    positionAngleDeg: number;
    goals: { tally: { accepted: number; toPlan: number } }[];
  };
  const read = async (): Promise<{ rigId: string; name: string; panels: Place[] }> => {
    const { rigId, name, panels } = await (await page.request.get(urlOf(`/api/projects/${id}`))).json();
    return {
      rigId,
      name,
      panels: panels.map(({ raDeg, decDeg, positionAngleDeg, goals }: Place) => ({
        raDeg,
        decDeg,
        positionAngleDeg,
        goals: goals.map(({ tally }) => ({ tally: { accepted: tally.accepted, toPlan: tally.toPlan } })),
      })),
    };
  };
  const before = await read();
  const [panel] = before.panels;
  const outcome = page.getByRole('list', { name: 'What would change' });
  const { rigs } = await (await page.request.get(urlOf('/api/observatory'))).json();
  const rig = rigs.find((candidate: { id: string }) => candidate.id === before.rigId);
  const heightDeg = (rig.heightPx * rig.pixelUm * 0.18) / Math.PI / rig.focalLengthMm;
  const reframeBy = async (share: number): Promise<void> => {
    const degrees = share * heightDeg;
    await page.goto(
      urlOf(
        `/framing?rig=${before.rigId}&target=anew&ra=${panel.raDeg}&dec=${panel.decDeg + degrees}&angle=${panel.positionAngleDeg}`,
      ),
    );
    await page.getByLabel('Or apply it to a project').selectOption({ label: before.name });
    await expect(outcome).toContainText(/moves by [\d.]+′/);
  };
  // Moved by a twentieth of its height it still has nine tenths of each exposure; by a third a person decides.
  await reframeBy(0.05);
  await expect(outcome).toContainText(/Keep their credit: [1-9]\d* exposures/);
  await expect(outcome).not.toContainText('you decide');
  await reframeBy(0.35);
  await expect(outcome).toContainText(/half or more, and you decide: [1-9]\d* exposures/);
  await reframeBy(3);
  await expect(outcome).toContainText(/Stay in the ledger without credit: [1-9]\d* exposures/);
  expect(await seriousFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Reframe', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Limits', exact: true })).toBeVisible();
  await expect.poll(async () => (await read()).panels[0].goals.every(({ tally }) => tally.accepted === 0)).toBe(true);
  await page.keyboard.press('z');
  await expect(page.getByRole('status').filter({ hasText: 'Undone: framing of' })).toBeVisible();
  await expect.poll(read).toEqual(before);
});
