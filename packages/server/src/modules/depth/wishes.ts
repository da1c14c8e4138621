// Depths that a project wants, filter by filter: set and given up by whoever may change the project, each change undone by name.
import type { BodyOf, setDepthWish } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { changing, editableProject } from '../projects/index.ts';

export interface WishParts {
  readonly database: Database;
  readonly changes: ChangeService;
}

type Wanted = BodyOf<typeof setDepthWish>['wanted'];
interface WishOf {
  readonly observatoryId: string;
  readonly projectId: string;
  readonly filterId: string;
}

export function createDepthWishes({ database, changes }: WishParts) {
  changes.register('depth_wish', {
    by: 'owner',
    takeBack: async (queries, { observatoryId }, { entityId: filterId, projectId, before, after }) => {
      const of = { observatoryId, projectId: projectId!, filterId };
      const [now, set, was] = [await wantedOf(queries, of), after as { wanted: Wanted }, before as { wanted: Wanted }];
      if (!isSame(now, set.wanted))
        throw new ServiceError('CONFLICT', 'Another person has changed this since; undo would remove their change');
      await store(queries, of, was.wanted);
    },
  });
  return {
    set: (viewer: Viewer, projectId: string, filterId: string, wanted: Wanted): Promise<{ ok: true }> =>
      changing(database, viewer, async (queries) => {
        const { observatoryId } = viewer;
        const project = await editableProject(queries, viewer, projectId);
        const filter = await queries.models.Filter.findOne({ where: { id: filterId, observatoryId } });
        if (!filter) throw notFound('filter');
        const of = { observatoryId, projectId, filterId };
        const before = await wantedOf(queries, of);
        if (isSame(before, wanted)) return { ok: true };
        await store(queries, of, wanted);
        await changes.record(queries, viewer, {
          entity: 'depth_wish',
          entityId: filterId,
          projectId,
          words: `depth wanted in ${filter.letter}, ${project.name}`,
          before: { wanted: before },
          after: { wanted },
        });
        return { ok: true };
      }),
  };
}

const isSame = (a: Wanted, b: Wanted): boolean => a?.mag === b?.mag && a?.share === b?.share;

async function wantedOf(queries: Queries, { projectId, filterId }: WishOf): Promise<Wanted> {
  const wish = await queries.models.DepthWish.findOne({ where: { projectId, filterId } });
  return wish && { mag: wish.mag, share: wish.share };
}

async function store(queries: Queries, of: WishOf, wanted: Wanted): Promise<void> {
  await queries.models.DepthWish.destroy({ where: { projectId: of.projectId, filterId: of.filterId } });
  if (wanted) await queries.models.DepthWish.create({ ...of, ...wanted });
}
