import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  editProject,
  judgeExposures,
  listAlerts,
  markAlertSeen,
  previewRules,
  readProject,
  readRules,
  setRules,
} from '@meridiem/contract';
import { DEFAULT_RULES } from '@meridiem/core';
import { ledgerChanged } from '../src/modules/ledger/index.ts';
import { servedDifferences } from './recount.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const DEFAULTS = DEFAULT_RULES;
let test: TestApp;
let goal: { id: string; rigId: string; projectId: string; observatoryId: string };
beforeAll(async () => {
  test = await createTestApp({ exposures: 700 });
  const found = await test.database.one<typeof goal>(
    `SELECT g.id, p.rig_id AS "rigId", p.id AS "projectId", p.observatory_id AS "observatoryId" FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
     JOIN goal_totals t ON t.goal_id = g.id WHERE p.judging ORDER BY t.exposure_count DESC LIMIT 1`,
  );
  goal = found!;
}, 60_000);
afterAll(() => test.close());

/** An exposure of the goal with given figures, as the runner would report it. */
async function take(minute: number, figures: { hfr?: number; stars?: number } = {}): Promise<string> {
  const [{ id }] = await test.database.rows<{ id: string }>(
    `INSERT INTO exposures (observatory_id, rig_revision_id, night_date, start_utc, exposure_s, filter_id, gain, "offset", binning, header_key)
     SELECT e.observatory_id, e.rig_revision_id, e.night_date + 400, e.start_utc + interval '400 days' + $2 * interval '1 minute', e.exposure_s, e.filter_id, e.gain, e."offset", e.binning, 'test ' || $2
     FROM exposures e JOIN ledger_rows r ON r.exposure_id = e.id WHERE r.goal_id = $1 ORDER BY e.start_utc DESC LIMIT 1 RETURNING id`,
    [goal.id, minute],
  );
  await test.database.rows(
    `INSERT INTO attributions (observatory_id, exposure_id, project_id, panel_id, goal_id, credit_share, reason)
     SELECT p.observatory_id, $2, p.id, l.id, g.id, 1, 'test' FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id WHERE g.id = $1`,
    [goal.id, id],
  );
  await test.database.rows(
    `INSERT INTO measurements (exposure_id, half_flux_radius_px, star_count, guiding_rms_arcsec, background_e, airmass, transparency, sky_ratio)
     VALUES ($1, $2, $3, 0.6, 400, 1, 1, 1)`,
    [id, figures.hfr ?? 2, figures.stars ?? 700],
  );
  await ledgerChanged(test.database, goal.observatoryId, [goal.id]);
  return id;
}
const ruled = (id: string) =>
  test.database.one<{ verdict: string; reason: string }>(
    `SELECT verdict, reason FROM verdicts WHERE exposure_id = $1 AND origin = 'rule' ORDER BY seq DESC LIMIT 1`,
    [id],
  );
const minutes = (from: number, count: number): number[] => Array.from({ length: count }, (_, i) => from + i);

describe('rules', () => {
  it('are the defaults until somebody sets them', async () => {
    const { body } = await test.call('sam', readRules, { params: { id: goal.rigId } });
    expect(body).toEqual({ rules: DEFAULTS, setBy: null, setUtcMs: null });
  });

  it('are tried out on the ledger before they are set, and set with what was foretold', async () => {
    const params = { id: goal.rigId };
    const strict = { ...DEFAULTS, guiding: 1.2, background: null };
    const { body: now } = await test.call('ilse', previewRules, { params, body: DEFAULTS });
    const { body: foretold } = await test.call('ilse', previewRules, { params, body: strict });
    expect(now.exposures).toBeGreaterThan(100);
    expect(foretold.wouldReject).toBeGreaterThan(now.wouldReject);
    expect(foretold.byFigure.background).toBe(0);
    expect((await test.call('ruan', previewRules, { params, body: strict })).status).toBe(403);
    expect((await test.call('ilse', setRules, { params, body: { ...strict, guiding: 0 } })).status).toBe(400);
    await test.call('ilse', setRules, { params, body: strict });
    const { body: after } = await test.call('ilse', previewRules, { params, body: strict });
    expect(after.rejectedNow).toBe(foretold.wouldReject);
    expect((await test.call('sam', readRules, { params })).body).toMatchObject({
      rules: strict,
      setBy: 'Ilse Marwick',
    });
    expect(await servedDifferences(test.database)).toEqual([]);
    await test.call('ilse', setRules, { params, body: DEFAULTS });
  });

  it('judge what arrives against its own kind, and never over a hand', async () => {
    for (const minute of minutes(0, 12)) await take(minute, { hfr: 2 + 0.02 * (minute % 3) });
    const bad = await take(13, { stars: 150 });
    expect(await ruled(bad)).toEqual({ verdict: 'rejected', reason: 'cloud' });
    await test.call('ilse', judgeExposures, { body: { exposureIds: [bad], verdict: 'accepted', reason: 'looked at' } });
    await ledgerChanged(test.database, goal.observatoryId, [goal.id]);
    const inForce = await test.database.one('SELECT verdict FROM ledger_rows WHERE exposure_id = $1', [bad]);
    expect(inForce).toEqual({ verdict: 'accepted' });
  });

  it('say nothing twice', async () => {
    const count = () => test.database.one('SELECT count(*) AS count FROM verdicts');
    const before = await count();
    await ledgerChanged(test.database, goal.observatoryId, [goal.id]);
    expect(await count()).toEqual(before);
  });

  it('take a lasting change for a new level and raise an alert that somebody can put away', async () => {
    for (const minute of minutes(20, 30)) await take(minute, { hfr: 2 + 0.02 * (minute % 3) });
    const swollen = [];
    for (const minute of minutes(60, 5)) swollen.push(await take(minute, { hfr: 2.6 + 0.02 * (minute % 3) }));
    for (const id of swollen) expect(await ruled(id)).toEqual({ verdict: 'undecided', reason: 'new level' });
    const { alerts } = (await test.call('ilse', listAlerts)).body;
    expect(alerts[0].words).toMatch(/star size has settled \d\d % higher; five exposures wait/);
    await test.call('ilse', markAlertSeen, { params: { id: alerts[0].id } });
    const open = (await test.call('ilse', listAlerts)).body.alerts.map(({ id }) => id);
    expect(open).not.toContain(alerts[0].id);
    const later = [];
    for (const minute of minutes(70, 8)) later.push(await take(minute, { hfr: 2.6 + 0.02 * (minute % 3) }));
    for (const id of later) expect((await ruled(id))!.verdict).toBe('accepted');
  });

  it('rest where a project has judging switched off', async () => {
    const params = { id: goal.projectId };
    const { body: project } = await test.call('ilse', readProject, { params });
    await test.call('ilse', editProject, { params, body: { version: project.version, judging: false } });
    expect(await ruled(await take(90, { stars: 20 }))).toBeNull();
  });
});
