import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AnyOperation } from '@meridiem/contract';
import { editProject, listExposures, OPERATIONS, readNight } from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

/** Names that stand nowhere else, given to everything of one member's project. */
const SECRET = 'Quillon';
let test: TestApp;
let project: { id: string; ownerKey: string; rigId: string; nightDate: string };
let exposures: number;

beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
  const found = await test.ownerDatabase.one<{ id: string; owner: string; exposures: number }>(
    `SELECT p.id, split_part(o.email, '@', 1) AS owner, (SELECT sum(exposures)::int FROM ledger_tallies t WHERE t.project_id = p.id) AS exposures FROM projects p JOIN people o ON o.id = p.owner_id
     JOIN memberships m ON m.person_id = o.id AND m.role = 'member' WHERE p.state = 'granted' AND NOT p.private ORDER BY 3 DESC NULLS LAST LIMIT 1`,
  );
  const exposed = await test.ownerDatabase.one<{ rigId: string; nightDate: string }>(
    `SELECT p.rig_id AS "rigId", max(t.night_date)::text AS "nightDate" FROM projects p JOIN ledger_tallies t ON t.project_id = p.id WHERE p.id = $1 GROUP BY p.id`,
    [found!.id],
  );
  project = { id: found!.id, ownerKey: found!.owner, ...exposed! };
  exposures = found!.exposures;
  await test.ownerDatabase.rows(
    `UPDATE projects SET private = true, name = '${SECRET} project', why = '${SECRET} why' WHERE id = $1`,
    [project.id],
  );
  await test.ownerDatabase.rows(`UPDATE panels SET name = '${SECRET} panel ' || position WHERE project_id = $1`, [
    project.id,
  ]);
  await test.ownerDatabase.rows(
    `UPDATE targets SET name = '${SECRET} target' WHERE id = (SELECT target_id FROM projects WHERE id = $1)`,
    [project.id],
  );
  await test.ownerDatabase.rows(
    `INSERT INTO changes (observatory_id, person_id, entity, entity_id, project_id, words, before, after)
     SELECT observatory_id, owner_id, 'projects', id, id, '${SECRET} change', '{}', '{}' FROM projects WHERE id = $1`,
    [project.id],
  );
  // A published plan with one block of this project, whatever the planner would have put there.
  await test.ownerDatabase.rows(
    `WITH plan AS (INSERT INTO night_plans (observatory_id, rig_id, night_date, seq, state, problem_hash, seed, iterations, value, published_by)
       SELECT observatory_id, rig_id, '2026-10-11', 1, 'published', 'x', 1, 1, 1, owner_id FROM projects WHERE id = $1 RETURNING id, observatory_id),
     block AS (INSERT INTO plan_blocks (observatory_id, plan_id, position, panel_id, during)
       SELECT plan.observatory_id, plan.id, 1, l.id, '[2026-10-11T12:00:00Z,2026-10-11T13:00:00Z)' FROM plan, panels l WHERE l.project_id = $1 ORDER BY l.position LIMIT 1 RETURNING id, observatory_id, panel_id)
     INSERT INTO plan_runs (observatory_id, block_id, position, goal_id, start_utc, end_utc, exposure_s, exposure_starts, mean_rate_share)
       SELECT block.observatory_id, block.id, 1, g.id, '2026-10-11T12:05:00Z', '2026-10-11T12:55:00Z', 300, ARRAY['2026-10-11T12:05:00Z'::timestamptz], 1 FROM block JOIN goals g ON g.panel_id = block.panel_id LIMIT 1`,
    [project.id],
  );
}, 60_000);
afterAll(() => test.close());

const READS = Object.entries(OPERATIONS).filter(
  ([name, { method, access }]) => method === 'GET' && access !== 'runner' && name !== 'followEvents',
);

async function answer(who: string, operation: AnyOperation): Promise<string> {
  const isRigs = operation.path.startsWith('/rigs/');
  const params = {
    id: isRigs ? project.rigId : project.id,
    nightDate: isRigs ? project.nightDate : '2026-10-11',
    token: 'no-such-token-as-this',
  };
  const queries = [{}, { plan: 'working' }, { project: project.id }, { text: SECRET }, { format: 'votable' }];
  const fitting = queries.filter((query) =>
    Object.keys(query).every((key) => key in ((operation.query as { properties?: object }).properties ?? {})),
  );
  const bodies = [];
  for (const query of fitting)
    bodies.push((await test.call(who, operation, { params: params as never, query: query as never })).body as unknown);
  return JSON.stringify(bodies);
}

describe('a private project', () => {
  it.each(READS)('is named by %s to nobody but its owner and coordinators', async (_, operation) => {
    for (const who of ['ruan', 'mirela', 'jonah', 'petra', 'sam'].filter((key) => key !== project.ownerKey))
      expect([who, (await answer(who, operation)).includes(SECRET)]).toEqual([who, false]);
  });

  it.each([
    'listProjects',
    'readProject',
    'readAccountedNight',
    'search',
    'exportNightCalendar',
    'listExposures',
    'listChanges',
    'exportLedger',
    'exportGoals',
    'exportTargets',
  ])('is named by %s to its owner and to coordinators', async (name) => {
    for (const who of [project.ownerKey, 'ilse']) expect(await answer(who, OPERATIONS[name])).toContain(SECRET);
  });

  it('is in no event of the stream, by name or by id', async () => {
    await test.call('ilse', editProject, { params: { id: project.id }, body: { version: 1, why: `${SECRET} again` } });
    const events = await test.ownerDatabase.rows('SELECT topic, ids FROM events');
    expect(events.length).toBeGreaterThan(0);
    expect(JSON.stringify(events)).not.toMatch(new RegExp(`${SECRET}|${project.id}`));
  });

  it('takes its hours as reserved in the plan and in the ledger', async () => {
    const other = project.ownerKey === 'ruan' ? 'jonah' : 'ruan';
    const { body: page } = await test.call(other, listExposures, { query: { limit: 500 } });
    expect(page.rows.filter((row) => row.projectName === 'reserved').length).toBeGreaterThan(0);
    expect((await test.call(other, listExposures, { query: { project: project.id } })).body.rows).toEqual([]);
    expect((await test.call('ilse', listExposures, { query: { project: project.id } })).body.totals).toMatchObject({});
    expect(exposures).toBeGreaterThan(0);
    const blocksOf = async (who: string) =>
      (
        await test.call(who, readNight, { params: { nightDate: '2026-10-11' }, query: { plan: 'working' } })
      ).body.rigs.flatMap((rig) => rig.blocks);
    const [theirs, whole] = [await blocksOf(other), await blocksOf('ilse')];
    expect(theirs.length).toBe(whole.length);
    whole.forEach((block, i) => {
      const isHidden = block.projectName.includes(SECRET);
      if (isHidden)
        expect(theirs[i]).toMatchObject({ projectName: 'reserved', ownerName: 'reserved', altitudeDeg: [] });
    });
  });
});
