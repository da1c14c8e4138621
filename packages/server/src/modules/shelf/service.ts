// The shelf: targets kept for later, themes that group them, and the orbits of those that move.
import type {
  BodyOf,
  ResponseOf,
  ShelvedTarget,
  Theme,
  addTheme,
  editTheme,
  readShelf,
  shelve,
  shelveOrbits,
} from '@meridiem/contract';
import type { Orbit } from '@meridiem/core';
import { parseOrbitLines } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { takeBackShelving } from './take-back-shelving.ts';

export type ShelfService = ReturnType<typeof createShelfService>;

export function createShelfService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('shelf', {
    by: 'author',
    takeBack: (queries, _viewer, change) => takeBackShelving(queries, change),
  });
  async function changing<T>(viewer: Viewer, work: (queries: Queries) => Promise<T>): Promise<T> {
    return database.transaction(async (queries) => {
      const result = await work(queries);
      await announce(queries, viewer.observatoryId, 'projects');
      return result;
    });
  }

  const recordShelving = (queries: Queries, viewer: Viewer, target: { id: string; name: string }, isShelved: boolean) =>
    changes.record(queries, viewer, {
      entity: 'shelf',
      entityId: target.id,
      projectId: null,
      words: `${target.name} ${isShelved ? 'onto' : 'off'} the shelf`,
      before: { shelved: !isShelved },
      after: { shelved: isShelved },
    });

  return {
    async read(viewer: Viewer): Promise<ResponseOf<typeof readShelf>> {
      const [targets, themes] = await Promise.all([
        database.rows<ShelvedTarget>(
          `SELECT t.id, t.name, t.ra_deg AS "raDeg", t.dec_deg AS "decDeg", t.size_arcmin AS "sizeArcmin", t.composition,
             (SELECT o.elements FROM orbits o WHERE o.target_id = t.id ORDER BY o.seq DESC LIMIT 1) AS orbit,
             ARRAY(SELECT m.theme_id FROM theme_targets m WHERE m.target_id = t.id ORDER BY m.theme_id) AS "themeIds",
             (SELECT count(*)::int FROM projects p WHERE p.target_id = t.id AND ${maySee('p', '$2', viewer.role)}) AS projects
           FROM targets t WHERE t.observatory_id = $1 AND t.shelved ORDER BY lower(t.name)`,
          [viewer.observatoryId, viewer.personId],
        ),
        database.rows<Theme>('SELECT id, name, take FROM themes WHERE observatory_id = $1 ORDER BY lower(name)', [
          viewer.observatoryId,
        ]),
      ]);
      return { targets, themes };
    },

    shelve: (
      viewer: Viewer,
      { name, raDeg, decDeg, sizeArcmin, composition }: BodyOf<typeof shelve>,
    ): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        const known = await queries.one<{ id: string }>(
          'SELECT id FROM targets WHERE observatory_id = $1 AND shelved AND lower(name) = lower($2)',
          [viewer.observatoryId, name],
        );
        if (known && composition) {
          await queries.rows('UPDATE targets SET composition = $2 WHERE id = $1', [known.id, composition]);
          return known;
        }
        if (known) throw refused('name', `${name} is on the shelf already`);
        const target = await queries.one<{ id: string }>(
          'INSERT INTO targets (observatory_id, name, ra_deg, dec_deg, size_arcmin, composition, shelved) VALUES ($1, $2, $3, $4, $5, $6, true) RETURNING id',
          [viewer.observatoryId, name, raDeg, decDeg, sizeArcmin, composition ?? null],
        );
        await recordShelving(queries, viewer, { id: target!.id, name }, true);
        return target!;
      }),

    unshelve: (viewer: Viewer, targetId: string): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const target = await queries.one<{ id: string; name: string }>(
          'UPDATE targets SET shelved = false WHERE id = $1 AND observatory_id = $2 AND shelved RETURNING id, name',
          [targetId, viewer.observatoryId],
        );
        if (!target) throw notFound('target on the shelf');
        await recordShelving(queries, viewer, target, false);
        return { ok: true };
      }),

    shelveOrbits: (viewer: Viewer, { text }: BodyOf<typeof shelveOrbits>): Promise<ResponseOf<typeof shelveOrbits>> =>
      changing(viewer, async (queries) => {
        const { orbits, problems } = parseOrbitLines(text);
        if (orbits.length === 0 && problems.length === 0) throw refused('text', 'There is no orbit in this text');
        for (const { orbit, line } of orbits) await storeOrbit(queries, viewer, orbit, line);
        return { names: orbits.map(({ orbit }) => orbit.name), problems };
      }),

    addTheme: (viewer: Viewer, { name, take }: BodyOf<typeof addTheme>): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        await refuseKnownTheme(queries, viewer, name, null);
        const theme = await queries.one<{ id: string }>(
          'INSERT INTO themes (observatory_id, name, take) VALUES ($1, $2, $3) RETURNING id',
          [viewer.observatoryId, name, take],
        );
        return theme!;
      }),

    editTheme: (
      viewer: Viewer,
      themeId: string,
      { name, take, targetIds }: BodyOf<typeof editTheme>,
    ): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        if (name !== undefined) await refuseKnownTheme(queries, viewer, name, themeId);
        const theme = await queries.one(
          'UPDATE themes SET name = coalesce($3, name), take = coalesce($4, take) WHERE id = $1 AND observatory_id = $2 RETURNING id',
          [themeId, viewer.observatoryId, name ?? null, take ?? null],
        );
        if (!theme) throw notFound('theme');
        if (targetIds !== undefined) {
          await queries.rows('DELETE FROM theme_targets WHERE theme_id = $1 AND target_id <> ALL ($2)', [
            themeId,
            targetIds,
          ]);
          await queries.rows(
            `INSERT INTO theme_targets (observatory_id, theme_id, target_id)
             SELECT t.observatory_id, $1, t.id FROM targets t WHERE t.id = ANY ($2) AND t.observatory_id = $3 AND t.shelved ON CONFLICT DO NOTHING`,
            [themeId, targetIds, viewer.observatoryId],
          );
        }
        return { ok: true };
      }),

    removeTheme: (viewer: Viewer, themeId: string): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const theme = await queries.one('DELETE FROM themes WHERE id = $1 AND observatory_id = $2 RETURNING id', [
          themeId,
          viewer.observatoryId,
        ]);
        if (!theme) throw notFound('theme');
        return { ok: true };
      }),
  };
}

async function refuseKnownTheme(
  queries: Queries,
  viewer: Viewer,
  name: string,
  exceptId: string | null,
): Promise<void> {
  const known = await queries.one(
    'SELECT 1 FROM themes WHERE observatory_id = $1 AND lower(name) = lower($2) AND id IS DISTINCT FROM $3::uuid',
    [viewer.observatoryId, name, exceptId],
  );
  if (known) throw refused('name', `There is a theme "${name}" already`);
}

/** Newer elements of a known name become the next ones of the same target. */
async function storeOrbit(queries: Queries, viewer: Viewer, orbit: Orbit, line: string): Promise<void> {
  const known = await queries.one<{ id: string }>(
    `UPDATE targets SET shelved = true WHERE id = (SELECT id FROM targets WHERE observatory_id = $1 AND kind = 'moving' AND lower(name) = lower($2) LIMIT 1) RETURNING id`,
    [viewer.observatoryId, orbit.name],
  );
  const target =
    known ??
    (await queries.one<{ id: string }>(
      `INSERT INTO targets (observatory_id, name, kind, shelved) VALUES ($1, $2, 'moving', true) RETURNING id`,
      [viewer.observatoryId, orbit.name],
    ));
  await queries.rows(
    `INSERT INTO orbits (observatory_id, target_id, seq, elements, line, person_id)
     SELECT $1, $2, 1 + coalesce(max(seq), 0), $3, $4, $5 FROM orbits WHERE target_id = $2`,
    [viewer.observatoryId, target!.id, JSON.stringify(orbit), line, viewer.personId],
  );
}
