import { expect, test } from '@playwright/test';
import { enterAs, rigSection } from './pages.ts';
import { answers, killProcess, queryStack, stackState, startProcess } from './stack.ts';

/** Each takes a server's whole start; with --long there are three. */
const CRASHES = process.env.MERIDIEM_LONG === '1' ? 3 : 1;

test('a server killed in the middle of a played night and started again has each exposure once', async ({ page }) => {
  test.setTimeout(720_000);
  await enterAs(page, 'Ilse Marwick');
  const rig = rigSection(page, /^Wren/);
  const publish = rig.getByRole('button', { name: /^Publish/ });
  await publish.click();
  await expect(rig).toContainText(/published, version/);
  await rig.getByLabel(/^Speed/).selectOption('60');
  await rig.getByRole('button', { name: 'Play on the simulated observatory' }).click();
  const line = rig.getByRole('group', { name: 'The night as it plays' });
  await expect(line).toContainText(/[1-9]\d* of \d+ exposures/);

  const state = stackState();
  for (let crash = 0; crash < CRASHES; crash++) {
    killProcess(state, 'server');
    await expect(page.getByText(/No contact with the server since/)).toBeVisible();
    startProcess(state, 'server');
    await answers(state.url);
    await expect(page.getByText(/No contact with the server since/)).toBeHidden({ timeout: 60_000 });
    await page.waitForTimeout(1200);
  }
  await expect(line).toContainText(/([3-9]|\d\d) of \d+ exposures/, { timeout: 180_000 });
  await rig.getByRole('button', { name: 'Stop' }).click();
  await expect(line).toContainText('Stopped by hand', { timeout: 90_000 });

  const [counts] = await queryStack<{ done: number; exposures: number; starts: number }>(
    `SELECT (SELECT count(*)::int FROM run_steps WHERE outcome = 'done') AS done, count(*)::int AS exposures, count(DISTINCT (rig_revision_id, start_utc))::int AS starts
     FROM exposures WHERE run_step_id IS NOT NULL`,
  );
  expect(counts.exposures).toBe(counts.done);
  expect(counts.starts).toBe(counts.exposures);
  const unequal = await queryStack(
    `SELECT 1 FROM goal_totals_true t JOIN goal_totals g USING (goal_id) WHERE (t.accepted, t.undecided, t.rejected, t.exposure_count) IS DISTINCT FROM (g.accepted, g.undecided, g.rejected, g.exposure_count)`,
  );
  expect(unequal).toEqual([]);
});
