// Hours asked for, granted, returned and queued; shares agreed, given and swapped; seasons tried that change nothing.
import type { Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults, urlOf } from './pages.ts';
import { queryStack } from './stack.ts';

test.describe.configure({ mode: 'serial' });

const PLANNED = { timeout: 360_000 };
const REQUESTED = /and its field$/;

async function openProject(page: Page, name: RegExp): Promise<void> {
  await page.goto(urlOf('/projects'));
  await page.getByRole('link', { name }).last().click();
  await expect(page.getByRole('heading', { name: 'Limits', exact: true })).toBeVisible();
}

const asked = (page: Page) => page.getByRole('region', { name: 'Hours granted' });

test('a request is returned with a remark, asked again, its consequences worked out, and granted; then the season holds it', async ({
  page,
  browser,
}) => {
  await enterAs(page, 'coordinator', '/projects');
  await expect(page.getByRole('region', { name: 'Requests' })).toContainText(/One request waits for a decision/);
  await openProject(page, REQUESTED);
  const form = asked(page).getByRole('form', { name: 'Decide the request' });
  await form.getByRole('button', { name: 'Return request' }).click();
  await expect(form.getByRole('alert')).toContainText('Say why');
  await form.getByLabel('Remark').fill('Fewer hours would do: it is bright.');
  await form.getByRole('button', { name: 'Return request' }).click();
  await expect(asked(page)).toContainText('On the hours: Fewer hours would do');

  const member = await (await browser.newContext()).newPage();
  await enterAs(member, 'Ruan Aldous', '/projects');
  await openProject(member, REQUESTED);
  await asked(member).getByRole('button', { name: 'Ask for hours' }).click();
  const ask = asked(member).getByRole('form', { name: 'Ask for hours' });
  await ask.getByLabel('Moonless hours').fill('two');
  await ask.getByRole('button', { name: 'Send request' }).click();
  await expect(ask.getByRole('alert')).toContainText('12.5');
  await ask.getByLabel('Moonless hours').fill('2.2');
  await ask.getByLabel('What for').fill('Shorter now');
  await asked(member)
    .getByRole('button', { name: /Compare finishing dates/ })
    .click();
  await expect(asked(member).getByText(/Two seasons of 60 nights/)).toBeVisible(PLANNED);
  await ask.getByRole('button', { name: 'Send request' }).click();
  await expect(asked(member)).toContainText('Ruan Aldous asks for 2.2 h moonless');
  expect(await seriousFaults(member)).toEqual([]);

  await page.reload();
  await expect(asked(page).getByText(/Two seasons of 60 nights/)).toBeVisible(PLANNED);
  await form.getByLabel('Grant moonless hours').fill('2');
  await form.getByRole('button', { name: 'Grant these hours' }).click();
  await expect(asked(page)).toContainText('0.0 of 2.0 h moonless used');
  await expect(page.getByRole('button', { name: 'State: Granted' })).toBeVisible();
  await page.goto(urlOf('/season'));
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  await expect(page.getByRole('group', { name: /^Nights of .* and its field$/ })).toBeVisible();
  await member.close();
});

test('a request is queued with a reason, and its place is shown to its owner', async ({ page }) => {
  await enterAs(page, 'Mirela', '/projects');
  await openProject(page, /and companion$/);
  await expect(asked(page)).toContainText('number 1 in the queue');
  await expect(asked(page)).toContainText('full until two galaxies are finished');
  await asked(page).getByRole('button', { name: 'Withdraw request' }).click();
  await expect(asked(page).getByRole('button', { name: 'Ask for hours' })).toBeVisible();
  await page.keyboard.press('z');
  await expect(asked(page)).toContainText('number 1 in the queue');
});

test('shares are agreed with their sum in sight, and refused where they are more than all', async ({ page }) => {
  await enterAs(page, 'coordinator', '/standing');
  const shares = page.getByRole('region', { name: 'Agreed shares' });
  await shares.getByRole('button', { name: 'Change shares' }).click();
  const form = shares.getByRole('form', { name: 'Shares of a period' });
  const ruan = form.getByLabel('Ruan Aldous: share of moonless hours, percent');
  await ruan.fill('60');
  await form.getByRole('button', { name: 'Save shares' }).click();
  await expect(form.getByRole('alert')).toContainText('125 %');
  await ruan.fill('25 %');
  await expect(form).toContainText('90 %');
  await form.getByRole('button', { name: 'Save shares' }).click();
  await expect(shares).toContainText('Ruan Aldous 25 % (moonless)');
  await page.keyboard.press('z');
  await expect(shares).toContainText('Ruan Aldous 35 % (moonless)');
  await page.getByLabel('Fairness').selectOption('1');
  await expect(page.getByText(/Fairness counts 100 %/)).toBeVisible();
  await page
    .getByRole('button', { name: /^Why: Mirela Costin, moonless/ })
    .first()
    .click();
  await expect(page.getByRole('complementary', { name: 'Why' })).toContainText('fairness set to 100 %');
  expect(await seriousFaults(page)).toEqual([]);
});

test('two members swap moonless for moonlit hours: one offers, the other accepts', async ({ page, browser }) => {
  await enterAs(page, 'Mirela', '/standing');
  const form = page.getByRole('form', { name: 'Give or swap hours' });
  await form.getByRole('button', { name: 'Give hours' }).click();
  await expect(form.getByRole('alert')).toContainText('Choose a member');
  await form.getByLabel('Give to').selectOption({ label: 'Ruan Aldous' });
  await form.getByLabel('Sky').selectOption('bright');
  await form.getByLabel('Hours', { exact: true }).fill('4');
  await form.getByLabel(/^For moonless hours/).fill('2');
  await form.getByRole('button', { name: 'Offer swap' }).click();
  await expect(page.getByText(/You offered Ruan Aldous 4\.0 h moonlit for 2\.0 h moonless/)).toBeVisible();
  const other = await (await browser.newContext()).newPage();
  await enterAs(other, 'Ruan Aldous', '/standing');
  await expect(other.getByText(/Mirela Costin offers you 4\.0 h moonlit for 2\.0 h moonless of yours/)).toBeVisible();
  await other.getByRole('button', { name: 'What it does to finishing dates' }).last().click();
  await expect(other.getByRole('region', { name: 'Finishing dates of Mirela Costin' })).toContainText(/noticeable|instead of/, PLANNED); // prettier-ignore
  await expect(other.getByRole('region', { name: 'Finishing dates of Ruan Aldous' })).toBeVisible();
  await other.getByRole('button', { name: 'Accept swap' }).click();
  await expect(other.getByRole('list', { name: 'Hours given' })).toContainText(
    'Mirela Costin gave Ruan Aldous 4.0 h moonlit',
  );
  await other.close();
  await expect(page.getByRole('list', { name: 'Hours given' })).toContainText(
    'Ruan Aldous gave Mirela Costin 2.0 h moonless',
  );
});

/** Everything that people's changes are written to, as one number each. */
const dump = () =>
  queryStack<{ table: string; hash: string }>(
    `SELECT t.relname AS "table", (xpath('/row/h/text()', query_to_xml(format('SELECT md5(coalesce(string_agg(x::text, E''\\n'' ORDER BY x::text), '''')) AS h FROM %I x', t.relname), true, true, '')))[1]::text AS hash
     FROM pg_class t WHERE t.relnamespace = 'public'::regnamespace AND t.relkind = 'r' AND t.relname NOT IN ('jobs', 'job_results', 'events', 'sessions', 'done_calls', 'notices') ORDER BY 1`,
  );

test('a season tried with changes stands beside the real one and changes no row; taken over, it does', async ({
  page,
}) => {
  await enterAs(page, 'coordinator', '/season');
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  const before = await dump();
  await page.getByRole('link', { name: 'What if' }).click();
  const tried = page.getByRole('region', { name: 'Changes tried' });
  await tried.getByRole('checkbox', { name: /in six panels/ }).click();
  await tried.getByLabel('Fairness counts').selectOption('0');
  await page.getByRole('button', { name: 'Plan this season' }).click();
  const compared = page.getByRole('region', { name: 'Side by side' });
  await expect(compared.getByRole('row', { name: /in six panels/ })).toContainText('not in the season', PLANNED);
  expect(await dump()).toEqual(before);
  expect(await seriousFaults(page)).toEqual([]);
  const address = page.url();
  await page.reload();
  await expect(compared).toBeVisible(PLANNED);
  expect(page.url()).toBe(address);
  await page.getByRole('button', { name: 'Take over these changes' }).click();
  await expect(page).toHaveURL(/\/season$/);
  const [{ resting }] = await queryStack<{ resting: boolean }>(
    `SELECT resting FROM projects WHERE name LIKE '%in six panels'`,
  );
  expect(resting).toBe(true);
  await page.keyboard.press('z');
  await expect
    .poll(
      async () =>
        (await queryStack<{ resting: boolean }>(`SELECT resting FROM projects WHERE name LIKE '%in six panels'`))[0]
          .resting,
    )
    .toBe(false);
});

test('what would help a project that can’t be finished is worked out, change by change', async ({ page }) => {
  test.skip(
    process.env.MERIDIEM_LONG !== '1',
    'ten seasons at full effort take a minute and a half: in the long suite',
  );
  await enterAs(page, 'coordinator', '/season');
  await expect(page.getByText(/best possible/)).toBeVisible(PLANNED);
  const open = page.getByRole('region', { name: 'Not to be finished' });
  const diagonal = open.getByRole('listitem').filter({ hasText: 'along the diagonal' });
  await diagonal.getByRole('button', { name: 'Work out what would help' }).click();
  await expect(diagonal.getByRole('list', { name: 'What would help' })).toContainText(
    'With the camera turned to its angle on a visit',
    PLANNED,
  );
});

test('two members on one object see each other, agree to share exposures, and part again', async ({
  page,
  browser,
}) => {
  const together = (of: Page) => of.getByRole('region', { name: 'On the same field' });
  await enterAs(page, 'Jonah', '/projects');
  await openProject(page, /in colour(?!, again)/);
  await page.getByRole('button', { name: 'copy' }).click();
  await page.getByRole('button', { name: 'Create draft' }).click();
  await expect(together(page)).toContainText(/in colour \(Ruan Aldous\) frames 100 % of the same field/);
  await together(page).getByRole('button', { name: 'Offer to share exposures' }).click();
  await together(page)
    .getByLabel(/This project is charged/)
    .fill('all');
  await together(page).getByRole('button', { name: 'Send offer' }).click();
  await expect(together(page).getByRole('alert')).toContainText('from 5 to 95 %');
  await together(page)
    .getByLabel(/This project is charged/)
    .fill('40');
  await together(page).getByRole('button', { name: 'Send offer' }).click();
  await expect(together(page)).toContainText('this project is charged 40 %. Not answered yet');

  const other = await (await browser.newContext()).newPage();
  await enterAs(other, 'Ruan Aldous', '/projects');
  await openProject(other, /in colour(?!, again)/);
  await expect(together(other)).toContainText('offers to share exposures for 4 goals; of each shared exposure this project is charged 60 %'); // prettier-ignore
  // One pair at a time: the project of the demo that shares with it already goes first.
  await together(other).getByRole('button', { name: 'Accept and share' }).click();
  await expect(together(other)).toContainText('shares exposures with another project already; end that first');
  await together(other).getByRole('button', { name: 'End sharing' }).click();
  await expect(together(other)).not.toContainText('Shares exposures with');
  await together(other).getByRole('button', { name: 'Accept and share' }).click();
  await expect(together(other)).toContainText(/Shares exposures with .* in colour, again \(Jonah Teague\)/);
  expect(await seriousFaults(other)).toEqual([]);

  await expect(together(page)).toContainText('4 goals once both projects are granted');
  await together(page).getByRole('button', { name: 'End sharing' }).click();
  await expect(together(page).getByRole('button', { name: 'Offer to share exposures' })).toBeVisible();
  await page.keyboard.press('z');
  await expect(together(page).getByRole('button', { name: 'End sharing' })).toBeVisible();
  await other.close();
});
