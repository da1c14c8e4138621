// The shelf: targets kept for later, and the orbits of those that move.
import type { BodyOf, ResponseOf, readShelf, shelve, shelveOrbits } from '@meridiem/contract';
import type { Orbit } from '@meridiem/core';
import { parseOrbitLines } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { takeBackShelving } from './take-back-shelving.ts';
import { changingShelf, createThemes } from './themes.ts';
import { shelvedTargets, storeOrbit, targetOnShelf, themesOf } from './repository.ts';

export interface ShelfParts {
  readonly database: Database;
  readonly changes: ChangeService;
}

export type ShelfService = ReturnType<typeof createShelfService>;

export const createShelfService = (parts: ShelfParts) => ({ ...createShelved(parts), ...createThemes(parts) });

function createShelved({ database, changes }: ShelfParts) {
  changes.register('shelf', {
    by: 'author',
    takeBack: (queries, _viewer, change) => takeBackShelving(queries, change),
  });
  const changing = <T>(viewer: Viewer, work: (queries: Queries) => Promise<T>): Promise<T> =>
    changingShelf(database, viewer, work);
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
        shelvedTargets(database, viewer),
        themesOf(database, viewer.observatoryId),
      ]);
      return { targets, themes };
    },

    shelve: (viewer: Viewer, { composition, ...body }: BodyOf<typeof shelve>): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const known = await targetOnShelf(queries, observatoryId, body.name);
        if (known && composition) {
          await known.update({ composition });
          return { id: known.id };
        }
        if (known) throw refused('name', `${body.name} is on the shelf already`);
        const target = await queries.models.Target.create({ observatoryId, ...body, composition, shelved: true });
        await recordShelving(queries, viewer, target, true);
        return { id: target.id };
      }),

    unshelve: (viewer: Viewer, targetId: string): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const target = await queries.models.Target.findOne({ where: { id: targetId, observatoryId, shelved: true } });
        if (!target) throw notFound('target on the shelf');
        await target.update({ shelved: false });
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

    /** One orbit that is not read from a line.
     * @returns the target that it is of */
    shelveOrbit: (viewer: Viewer, orbit: Orbit, line: string): Promise<string> =>
      changing(viewer, (queries) => storeOrbit(queries, viewer, orbit, line)),
  };
}
