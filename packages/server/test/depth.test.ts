// What the archive holds over a field that a project frames: of every project that one may see, place by place.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readDepth, setDepthWish, undoLast } from '@meridiem/contract';
import { MEASURING_METHOD } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

interface Framed {
  readonly projectId: string;
  readonly ownerId: string;
  readonly raDeg: number;
  readonly decDeg: number;
}

let test: TestApp;
/** One that asks, and one of somebody else that has exposures. */
let asking: Framed;
let source: Framed & { readonly exposureIds: readonly string[] };
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const framed = await test.ownerDatabase.rows<Framed & { exposures: number }>(
    `SELECT p.id AS "projectId", p.owner_id AS "ownerId", g.ra_deg AS "raDeg", g.dec_deg AS "decDeg", (SELECT count(*)::int FROM ledger_rows r WHERE r.project_id = p.id AND r.verdict <> 'rejected') AS exposures
     FROM projects p JOIN panels l ON l.project_id = p.id AND l.position = (SELECT min(position) FROM panels WHERE project_id = p.id) JOIN panel_pointings g ON g.panel_id = l.id WHERE g.ra_deg IS NOT NULL AND NOT p.private ORDER BY exposures DESC, p.id`,
  );
  const most = framed[0];
  asking = framed.findLast(({ ownerId }) => ownerId !== most.ownerId)!;
  const rows = await test.ownerDatabase.rows<{ id: string }>(
    `SELECT exposure_id AS id FROM ledger_rows WHERE project_id = '${most.projectId}' AND verdict <> 'rejected' ORDER BY start_utc LIMIT 5`,
  );
  source = { ...most, exposureIds: rows.map(({ id }) => id) };
}, 60_000);
afterAll(() => test.close());

/** Says of an exposure's file that it looks at a place. */
async function measured(exposureId: string, raDeg: number, decDeg: number): Promise<void> {
  await test.ownerDatabase.rows(
    `INSERT INTO frames (exposure_id, observatory_id, name, size_bytes, sha256) SELECT id, observatory_id, 'Wren/' || id || '.fits', 1000, sha256(id::text::bytea) FROM exposures WHERE id = '${exposureId}'`,
  );
  await test.ownerDatabase.rows(
    `INSERT INTO frame_measures (exposure_id, method, width_px, height_px, background, noise, star_count, histogram_to, histogram_counts, saturated_share, trails, solved_by,
       ra_deg, dec_deg, position_angle_deg, scale_arcsec, is_mirrored, solved_stars, residual_arcsec, zero_point_mag, zero_point_scatter_mag, zero_point_stars)
     VALUES ('${exposureId}', ${MEASURING_METHOD}, 800, 600, 500, 6, 40, 1000, '{1}', 0, '[]', 'stars', ${raDeg}, ${decDeg}, 0, 2, false, 30, 0.3, 24, 0.05, 20)`,
  );
}
const depth = async (who: string, of?: 'project' | 'archive') =>
  (await test.call(who, readDepth, { params: { id: asking.projectId }, query: of ? { of } : {} })).body;

describe('what the archive holds over a field', () => {
  it('is nothing where no file says that it looks there', async () => {
    await measured(source.exposureIds[0], asking.raDeg, -asking.decDeg + 20);
    const body = await depth('ilse', 'archive');
    expect(body.grid).not.toBeNull();
    expect(body).toMatchObject({ filters: [], sources: [] });
  });

  it('is what others have there, by filter, with whose it is', async () => {
    for (const id of source.exposureIds.slice(1, 4)) await measured(id, asking.raDeg, asking.decDeg);
    const { filters, sources, grid } = await depth('ilse', 'archive');
    expect(sources).toEqual([expect.objectContaining({ projectId: source.projectId, exposures: 3 })]);
    expect(filters.reduce((sum, filter) => sum + filter.measured, 0)).toBe(3);
    for (const { cells, summary } of filters) {
      expect(cells).toHaveLength(grid!.across * grid!.down);
      expect(cells[(grid!.down >> 1) * grid!.across + (grid!.across >> 1)]).toBeCloseTo(summary!.deepestMag, 3);
    }
    // The project's own depth is another question.
    const own = await depth('ilse');
    expect([own.sources, own.filters.every((filter) => filter.measured === 0)]).toEqual([[], true]);
  });

  it('leaves out what was rejected', async () => {
    await test.ownerDatabase.rows(
      `INSERT INTO verdicts (observatory_id, exposure_id, origin, verdict, reason, person_id, by_coordinator)
       SELECT observatory_id, '${source.exposureIds[1]}', 'hand', 'rejected', 'cloud', owner_id, true FROM projects WHERE id = '${source.projectId}'`,
    );
    expect((await depth('ilse', 'archive')).sources).toEqual([expect.objectContaining({ exposures: 2 })]);
  });

  it('leaves out others’ private work, and shows it to those who may see it', async () => {
    await test.ownerDatabase.rows(`UPDATE projects SET private = true WHERE id = '${source.projectId}'`);
    expect(await depth('sam', 'archive')).toMatchObject({ filters: [], sources: [] });
    expect((await depth('ilse', 'archive')).sources).toHaveLength(1);
  });

  it('refuses another word than the two', async () => {
    const query = { of: 'everything' as 'archive' };
    expect((await test.call('ilse', readDepth, { params: { id: asking.projectId }, query })).status).toBe(400);
  });
});

describe('a depth that a project wants', () => {
  let filterId: string;
  const want = (who: string, wanted: { mag: number; share: number } | null, id = asking.projectId, filter = filterId) =>
    test.call(who, setDepthWish, { params: { id, filterId: filter }, body: { wanted } });
  const wanted = async () =>
    (await depth('ilse')).filters.find((filter) => filter.filterId === filterId)?.wanted ?? null;
  beforeAll(async () => {
    const row = await test.ownerDatabase.one<{ id: string }>(
      `SELECT r.filter_id AS id FROM goals g JOIN panels l ON l.id = g.panel_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id WHERE l.project_id = '${asking.projectId}' LIMIT 1`,
    );
    filterId = row!.id;
  });

  it('is kept by filter, changed, given up, and each change undone', async () => {
    expect(await wanted()).toBeNull();
    expect((await want('ilse', { mag: 26.5, share: 0.9 })).status).toBe(200);
    expect(await wanted()).toEqual({ mag: 26.5, share: 0.9 });
    await want('ilse', { mag: 27, share: 0.8 });
    expect(await wanted()).toEqual({ mag: 27, share: 0.8 });
    expect((await test.call('ilse', undoLast)).body.words).toContain('depth wanted');
    expect(await wanted()).toEqual({ mag: 26.5, share: 0.9 });
    await want('ilse', null);
    expect(await wanted()).toBeNull();
    await test.call('ilse', undoLast);
    expect(await wanted()).toEqual({ mag: 26.5, share: 0.9 });
  });

  it('is no business of others, and no depth or filter that there is not', async () => {
    expect(['FORBIDDEN', 'NOT_ALLOWED', 'NOT_FOUND']).toContain((await want('sam', { mag: 26, share: 0.5 }, source.projectId)).error!.code); // prettier-ignore
    expect((await want('ilse', { mag: 99, share: 0.5 })).status).toBe(400);
    expect((await want('ilse', { mag: 26, share: 0 })).status).toBe(400);
    expect((await want('ilse', { mag: 26, share: 0.5 }, asking.projectId, asking.projectId)).error!.code).toBe('NOT_FOUND'); // prettier-ignore
    expect(await wanted()).toEqual({ mag: 26.5, share: 0.9 });
  });

  it('is not undone over what another has wanted since', async () => {
    await want('ilse', { mag: 25, share: 0.5 });
    await test.ownerDatabase.rows(`UPDATE depth_wishes SET mag = 25.5 WHERE project_id = '${asking.projectId}'`);
    expect((await test.call('ilse', undoLast)).error!.code).toBe('CONFLICT');
    expect((await wanted())!.mag).toBe(25.5);
  });
});
