// Long computations as people see them: how far they are, stopped by a button, finished though a worker is killed.
import { expect, test } from '@playwright/test';
import { enterAs } from './pages.ts';
import { killProcess, pauseWorkers, queryStack, stackState, startProcess, startSecondServer } from './stack.ts';

const jobs = (kind: string) =>
  queryStack<{ id: string; state: string; holder: string | null; attempt: number }>(
    `SELECT id, state, holder, attempt FROM jobs WHERE kind = '${kind}' ORDER BY created DESC`,
  );
const forget = (kind: string) =>
  queryStack(`DELETE FROM job_results WHERE kind = '${kind}'`).then(() =>
    queryStack(`UPDATE jobs SET state = 'stopped', finished = now() WHERE finished IS NULL AND kind = '${kind}'`),
  );

/** The project with most panels: its nights take longest to plan. */
async function longestProject(): Promise<string> {
  const [{ id }] = await queryStack<{ id: string }>(
    `SELECT p.id FROM projects p JOIN panels l ON l.project_id = p.id WHERE p.state = 'granted' GROUP BY p.id ORDER BY count(*) DESC LIMIT 1`,
  );
  return id;
}

// A season: it takes seconds even on a fast machine, so that a worker is always caught at it.
test('of two workers on two servers one is killed during a job, and the other finishes it', async ({ page }) => {
  const state = stackState();
  startProcess(state, 'worker-2');
  const otherServer = await startSecondServer(stackState());
  await forget('season');
  await enterAs(page, 'coordinator', '/season');
  const underWay = async () => (await jobs('season')).find(({ state }) => state === 'running');
  await expect
    .poll(async () => (await underWay())?.holder ?? null, { timeout: 90_000, intervals: [50] })
    .not.toBeNull();
  const running = (await underWay())!;
  const pid = Number(running.holder!.split(' ').at(-1));
  const name = Object.entries(stackState().pids).find(([, own]) => own === pid)?.[0] ?? 'worker';
  killProcess(stackState(), name);
  // The other server knows of the same job, and shows the same result.
  await page.goto(`${otherServer}/season`);
  await expect(page.getByText(/best possible/)).toBeVisible({ timeout: 360_000 });
  const [finished] = await queryStack<{ state: string; attempt: number }>(
    `SELECT state, attempt FROM jobs WHERE id = '${running.id}'`,
  );
  expect(finished).toEqual({ state: 'done', attempt: running.attempt + 1 });
  startProcess(stackState(), name);
  killProcess(stackState(), 'server-2');
});

test('a computation shows how far it is and is stopped by a button', async ({ page }) => {
  const id = await longestProject();
  // Otherwise a fast machine is done before the button is found.
  const goOn = pauseWorkers(stackState());
  const needed = page.getByRole('region', { name: 'Time' });
  try {
    await forget('outlook');
    await enterAs(page, 'coordinator', `/projects/${id}`);
    await expect(needed.getByRole('progressbar', { name: 'Nights planned' })).toBeVisible();
    await needed.getByRole('button', { name: 'Stop' }).click();
    await expect(needed.getByText('Stopped.')).toBeVisible();
  } finally {
    goOn();
  }
  await needed.getByRole('button', { name: 'Plan the nights ahead' }).click();
  await expect(needed.getByRole('list', { name: 'Nights that could serve' })).toBeVisible({ timeout: 270_000 });
});

test('a large import shows how far it is, is stopped, then written, and taken back', async ({ page }) => {
  const count = 1200;
  const rows = Array.from({ length: count }, (_, i) => {
    const startUtc = new Date(Date.UTC(2012, 4, 1, 10) + i * 300_000).toISOString();
    return `${startUtc},L,240,Heron`;
  });
  const table = Buffer.from(['start_utc,filter,exposure_s,rig', ...rows].join('\n'));
  await enterAs(page, 'coordinator', '/imports');
  const goOn = pauseWorkers(stackState());
  try {
    await page.getByLabel('Choose files').setInputFiles({ name: 'winter.csv', mimeType: 'text/csv', buffer: table });
    await page.getByRole('button', { name: `Write ${count} into the ledger` }).click();
    await expect(page.getByRole('progressbar', { name: 'Written into the ledger' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Discard import' })).toBeDisabled();
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByText('Stopped: nothing was written')).toBeVisible();
  } finally {
    goOn();
  }
  await page.getByRole('button', { name: `Write ${count} into the ledger` }).click();
  await expect(page.getByText(`In the ledger: ${count} added`)).toBeVisible({ timeout: 270_000 });
  await page.locator('main').press('z');
  await expect(page.getByText(`Undone: Imported ${count} exposures`)).toBeVisible();
});
