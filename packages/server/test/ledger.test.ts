import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  judgeExposures,
  listExposures,
  listLedgerNights,
  listProjects,
  readProjectNights,
  readReasons,
  readReview,
  undoLast,
} from '@meridiem/contract';
import { seededRandom } from '@meridiem/core';
import { HISTORY_TABLES } from '../src/database/migrate.ts';
import { migrate, MIGRATIONS } from '../src/database/migrate.ts';
import type { TestApp } from './test-app.ts';
import { servedDifferences } from './recount.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 700 });
}, 60_000);
afterAll(() => test.close());

const newest = async (query = {}) => (await test.call('ilse', listExposures, { query })).body;
const judge = (who: string, exposureIds: string[], verdict: 'accepted' | 'rejected' | 'undecided') =>
  test.call(who, judgeExposures, { body: { exposureIds, verdict, reason: 'cloud' } });
const verdictOf = async (id: string) =>
  (await test.database.one<{ verdict: string }>('SELECT verdict_of($1) AS verdict', [id]))!.verdict;

describe('the ledger', () => {
  it('pages by key without gaps or doubles', async () => {
    const seen = new Set<string>();
    let before: string | undefined;
    do {
      const page = await newest({ limit: 70, ...(before ? { before } : {}) });
      for (const row of page.rows) {
        expect(seen.has(row.id)).toBe(false);
        seen.add(row.id);
      }
      before = page.next ?? undefined;
    } while (before);
    expect(seen.size).toBe(test.story.exposures.length);
  });

  it('filters by project, filter, night and verdict, with totals of what is shown', async () => {
    const [row] = (await newest()).rows;
    const page = await newest({ project: row.projectId, night: row.nightDate, verdict: row.verdict, limit: 500 });
    expect(
      page.rows.every(
        (other) =>
          other.projectId === row.projectId && other.nightDate === row.nightDate && other.verdict === row.verdict,
      ),
    ).toBe(true);
    expect(page.totals[row.verdict]).toBe(page.rows.length);
  });

  it('lists the nights that hold exposures', async () => {
    const { body } = await test.call('sam', listLedgerNights);
    expect(body.nights.reduce((sum, night) => sum + night.count, 0)).toBe(test.story.exposures.length);
  });

  it('refuses a page that is not one', async () =>
    expect((await test.call('sam', listExposures, { query: { before: 'nonsense' } })).status).toBe(422));
});

describe('what nights brought', () => {
  it('is numbered within a project and adds up to its totals', async () => {
    const { rows } = await newest();
    const id = rows[0].projectId!;
    const { nights } = (await test.call('ilse', readProjectNights, { params: { id } })).body;
    expect(nights.map((night) => night.number)).toEqual(nights.map((_, i) => i + 1));
    const { totals } = await newest({ project: id });
    for (const verdict of ['accepted', 'undecided', 'rejected'] as const)
      expect(nights.flatMap((night) => night.filters).reduce((sum, filter) => sum + filter[verdict], 0)).toBe(
        totals[verdict],
      );
  });

  it('is reviewed over a period, and says why exposures were lost', async () => {
    const query = { from: '2020-01-01', to: '2030-01-01' };
    const { projects } = (await test.call('ilse', readReview, { query })).body;
    const { totals } = await newest();
    expect(projects.reduce((sum, project) => sum + project.accepted, 0)).toBe(totals.accepted);
    const none = (await test.call('ilse', readReview, { query: { from: '2001-01-01', to: '2001-02-01' } })).body;
    expect(none.projects).toEqual([]);
    expect((await test.call('ilse', readReview, { query: { from: query.to, to: query.from } })).error.field).toBe('to');
    const { reasons } = (await test.call('ilse', readReasons)).body;
    expect(reasons.reduce((sum, { count }) => sum + count, 0)).toBe(totals.rejected);
  });
});

describe('verdicts', () => {
  const ownRow = async (owner: string) => {
    const { body } = await test.call('ilse', listProjects);
    const project = body.projects.find(
      (candidate) =>
        candidate.ownerName.startsWith(owner) && candidate.filters.some((filter) => filter.tally.accepted > 0),
    )!;
    return (await newest({ project: project.id, limit: 5 })).rows[0];
  };

  it('of a coordinator stand over a member’s, a member’s over a rule’s', async () => {
    const row = await ownRow('Mirela');
    await judge('mirela', [row.id], 'rejected');
    expect(await verdictOf(row.id)).toBe('rejected');
    await judge('ilse', [row.id], 'accepted');
    await judge('mirela', [row.id], 'rejected');
    expect(await verdictOf(row.id)).toBe('accepted');
    await test.call('ilse', undoLast);
    expect(await verdictOf(row.id)).toBe('rejected');
  });

  it('of another’s exposures are refused', async () => {
    const row = await ownRow('Mirela');
    expect((await judge('ruan', [row.id], 'accepted')).status).toBe(403);
  });

  it('in bulk change totals, and undo restores them', async () => {
    const { rows, totals } = await newest({ verdict: 'accepted', limit: 200 });
    const { body } = await judge(
      'ilse',
      rows.map((row) => row.id),
      'rejected',
    );
    expect(body.changed).toBe(rows.length);
    expect((await newest()).totals.accepted).toBe(totals.accepted - rows.length);
    expect(await servedDifferences(test.database)).toEqual([]);
    await test.call('ilse', undoLast);
    expect((await newest()).totals.accepted).toBe(totals.accepted);
    expect(await servedDifferences(test.database)).toEqual([]);
  });
});

describe('totals', () => {
  it('equal the defining view after random events', async () => {
    const random = seededRandom(11);
    const ids = (await newest({ limit: 500 })).rows.map((row) => row.id);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
    for (let i = 0; i < 60; i++) {
      const some = Array.from({ length: 1 + Math.floor(random() * 20) }, () => pick(ids));
      if (random() < 0.2) await test.call('ilse', undoLast);
      else if (random() < 0.15)
        await test.database.rows(
          'UPDATE attributions SET withdrawn = now() WHERE exposure_id = $1 AND withdrawn IS NULL',
          [pick(ids)],
        );
      else await judge('ilse', some, pick(['accepted', 'rejected', 'undecided'] as const));
    }
    expect(await servedDifferences(test.database)).toEqual([]);
  });

  it('can not be written by the application', async () => {
    await expect(test.database.rows('UPDATE goal_totals SET accepted = 1000')).rejects.toThrow(/permission denied/);
  });
});

describe('the application’s database role', () => {
  it.each([...HISTORY_TABLES])('can neither change nor delete rows of %s', async (table) => {
    await expect(test.database.rows(`DELETE FROM ${table}`)).rejects.toThrow(/permission denied/);
    const column = table === 'nights' ? 'night_date' : table === 'measurements' ? 'star_count' : 'observatory_id';
    await expect(test.database.rows(`UPDATE ${table} SET ${column} = ${column}`)).rejects.toThrow(/permission denied/);
  });
});

describe('the database', () => {
  it.each([
    [
      'one coordinate without the other',
      `INSERT INTO targets (observatory_id, name, ra_deg) SELECT id, 'half', 10 FROM observatories`,
    ],
    [
      'the same exposure twice',
      `INSERT INTO exposures SELECT gen_random_uuid(), observatory_id, rig_revision_id, night_date, kind, start_utc, exposure_s, filter_id, gain, "offset", binning, sensor_c, run_step_id, data_sha256, header_key, recorded FROM exposures LIMIT 1`,
    ],
    [
      'an exposure credited twice to a project',
      `INSERT INTO attributions (observatory_id, exposure_id, project_id, panel_id, goal_id, credit_share, reason) SELECT observatory_id, exposure_id, project_id, panel_id, goal_id, 1, 'again' FROM attributions WHERE withdrawn IS NULL LIMIT 1`,
    ],
    [
      'overlapping revisions of a rig',
      `INSERT INTO rig_revisions SELECT gen_random_uuid(), observatory_id, rig_id, seq + 1, during, camera_id, aperture_mm, obstruction_share, focal_length_mm, throughput, mount_kind, flip_before_s, flip_after_s, mount_limit_after_s, rotator_kind, angle_tolerance_deg, costs FROM rig_revisions LIMIT 1`,
    ],
    [
      'overlapping nights',
      `INSERT INTO nights (observatory_id, night_date, start_utc, end_utc)
       SELECT id, d, '2030-01-01', '2030-01-02' FROM observatories, unnest(ARRAY[date '2030-01-01', date '2031-01-01']) d`,
    ],
    [
      'a limit that has a value and is off',
      `INSERT INTO limit_values (observatory_id, key, value, is_off) SELECT id, 'zenithKeepOutDeg', 3, true FROM observatories`,
    ],
    [
      'a goal of another observatory’s panel',
      `INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, position) SELECT gen_random_uuid(), panel_id, recipe_revision_id, 99 FROM goals LIMIT 1`,
    ],
    [
      'an outcome without an intent',
      `INSERT INTO run_steps (observatory_id, run_id, seq, goal_id, planned_start, exposure_s, rate_share, outcome) SELECT observatory_id, gen_random_uuid(), 1, id, now(), 1, 1, 'done' FROM goals LIMIT 1`,
    ],
  ])('refuses %s', async (_, sql) => {
    await expect(test.ownerDatabase.rows(sql)).rejects.toThrow();
  });

  it('is brought up to date by two servers starting together', async () => {
    const app = { role: 'meridiem_test_app', password: 'test' };
    const ran = await Promise.all([migrate(test.ownerUrl, app), migrate(test.ownerUrl, app)]);
    expect(ran).toEqual([[], []]);
    const stored = await test.ownerDatabase.rows('SELECT name FROM migrations');
    expect(stored).toHaveLength(MIGRATIONS.length);
  });
});
