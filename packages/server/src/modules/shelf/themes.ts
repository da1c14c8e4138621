// Themes that group what is on the shelf.
import type { BodyOf, addTheme, editTheme } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isThemeKnown, putIntoTheme } from './repository.ts';

export const changingShelf = <T>(
  database: Database,
  { observatoryId }: Viewer,
  work: (queries: Queries) => Promise<T>,
): Promise<T> =>
  database.transaction(async (queries) => {
    const result = await work(queries);
    await announce(queries, observatoryId, 'projects');
    return result;
  });

export const createThemes = ({ database }: { database: Database }) => ({
  addTheme: (viewer: Viewer, { name, take }: BodyOf<typeof addTheme>): Promise<{ id: string }> =>
    changingShelf(database, viewer, async (queries) => {
      const { observatoryId } = viewer;
      await refuseKnown(queries, observatoryId, name, null);
      const { id } = await queries.models.Theme.create({ observatoryId, name, take });
      return { id };
    }),

  editTheme: (
    viewer: Viewer,
    themeId: string,
    { name, take, targetIds }: BodyOf<typeof editTheme>,
  ): Promise<{ ok: true }> =>
    changingShelf(database, viewer, async (queries) => {
      const { observatoryId } = viewer;
      const theme = await queries.models.Theme.findOne({ where: { id: themeId, observatoryId } });
      if (!theme) throw notFound('theme');
      if (name !== undefined) await refuseKnown(queries, observatoryId, name, themeId);
      await theme.update({ name, take });
      if (targetIds !== undefined) await putIntoTheme(queries, observatoryId, themeId, targetIds);
      return { ok: true };
    }),

  removeTheme: (viewer: Viewer, themeId: string): Promise<{ ok: true }> =>
    changingShelf(database, viewer, async ({ models }) => {
      const removed = await models.Theme.destroy({ where: { id: themeId, observatoryId: viewer.observatoryId } });
      if (removed === 0) throw notFound('theme');
      return { ok: true };
    }),
});

async function refuseKnown(
  queries: Queries,
  observatoryId: string,
  name: string,
  exceptId: string | null,
): Promise<void> {
  if (await isThemeKnown(queries, observatoryId, name, exceptId))
    throw refused('name', `There is a theme "${name}" already`);
}
