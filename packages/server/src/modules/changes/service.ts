// Who changed what, and taking one's own last change back by a compensating change.
import type { ResponseOf, listChanges } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { EditableTable } from './editable-table.ts';
import type { NewChange, StoredChange } from './repository.ts';
import { insertChange, listedChanges, newestOwnChange, ownsProject } from './repository.ts';
import { takeBackFields } from './take-back-fields.ts';

/** How a kind of change is taken back, and what role it takes at that time: a coordinator's, a helper's, the
 * project's owner's (a coordinator has them all), or nothing beyond being its author. */
export interface TakingBack {
  readonly by: 'coordinator' | 'helper' | 'owner' | 'author';
  /** @throws CONFLICT where somebody has built on the change */
  readonly takeBack: (queries: Queries, viewer: Viewer, change: StoredChange) => Promise<void>;
}

/** Comings and goings of people are changed back by hand, not by a key. */
const LASTING = ['memberships'];

export type ChangeService = ReturnType<typeof createChangeService>;

export function createChangeService({ database }: { database: Database }) {
  const kinds = new Map<string, TakingBack>();

  return {
    record: insertChange,

    /** Says how one kind of change is taken back. */
    register(entity: string, takingBack: TakingBack): void {
      if (kinds.has(entity)) throw new Error(`Changes of ${entity} are registered twice`);
      kinds.set(entity, takingBack);
    },

    /** The same for edits of fields. */
    registerFields(table: EditableTable, by: TakingBack['by']): void {
      this.register(table.entity, {
        by,
        takeBack: (queries, _viewer, change) => takeBackFields(queries, table, change),
      });
    },

    list: (viewer: Viewer, projectId: string | null): Promise<ResponseOf<typeof listChanges>['changes']> =>
      listedChanges(database, viewer, projectId),

    undoLast: (viewer: Viewer): Promise<{ words: string }> =>
      database.transaction(async (queries) => {
        const change = await newestOwnChange(queries, viewer, LASTING);
        if (!change) throw new ServiceError('NOTHING_TO_UNDO', 'There is nothing of yours to undo');
        const kind = kinds.get(change.entity);
        if (!kind) throw new ServiceError('NOTHING_TO_UNDO', `"${change.words}" can't be undone`);
        await refuseOtherRoles(queries, viewer, change, kind.by);
        await kind.takeBack(queries, viewer, change);
        const { id: undoOf, before, after, ...same } = change;
        const words = `Undone: ${change.words}`;
        await insertChange(queries, viewer, { ...same, words, before: after, after: before, undoOf });
        for (const topic of ['projects', 'ledger', 'plan', 'observatory'] as const)
          await announce(queries, viewer.observatoryId, topic);
        return { words };
      }),
  };
}

/** Whoever changed something may have another role by now, or the project another owner. */
async function refuseOtherRoles(
  queries: Queries,
  viewer: Viewer,
  { words, projectId }: StoredChange,
  by: TakingBack['by'],
): Promise<void> {
  if (viewer.role === 'coordinator') return;
  const isOwner = by === 'owner' && projectId !== null && (await ownsProject(queries, viewer, projectId));
  if (by === 'author' || isOwner || (by === 'helper' && viewer.role === 'helper')) return;
  throw notAllowed(`"${words}" was your last change, and you may no longer change that`);
}

export type { NewChange, StoredChange };
