// History as rows: who changed what, when, from what to what.
import type { Queries } from '../../database/connection.ts';
import { maySee } from '../../privacy.ts';
import type { Viewer } from '../../plugins/sessions.ts';

export interface NewChange {
  /** The kind of thing changed, as its module registers it. */
  readonly entity: string;
  readonly entityId: string;
  readonly projectId: string | null;
  readonly words: string;
  readonly before: Record<string, unknown>;
  readonly after: Record<string, unknown>;
  readonly undoOf?: string;
}

export interface StoredChange extends Omit<NewChange, 'undoOf'> {
  readonly id: string;
}

export interface ListedChange {
  readonly id: number;
  readonly at: number;
  readonly who: string;
  readonly words: string;
  readonly undone: boolean;
}

const UNDO_REACH = `interval '30 days'`;

export async function insertChange(queries: Queries, viewer: Viewer, change: NewChange): Promise<void> {
  const { observatoryId, personId } = viewer;
  await queries.models.Change.create({ ...change, undoOf: change.undoOf ?? null, observatoryId, personId });
}

export const listedChanges = (queries: Queries, viewer: Viewer, projectId: string | null): Promise<ListedChange[]> =>
  queries.rows(
    `SELECT c.id::int, (extract(epoch FROM c.at) * 1000)::float8 AS at, p.name AS who, c.words, EXISTS (SELECT 1 FROM changes u WHERE u.undo_of = c.id) AS undone
     FROM changes c JOIN people p ON p.id = c.person_id
     WHERE c.observatory_id = $1 AND ($2::uuid IS NULL OR c.project_id = $2)
       AND (c.project_id IS NULL OR EXISTS (SELECT 1 FROM projects x WHERE x.id = c.project_id AND ${maySee('x', '$3', viewer.role)})) ORDER BY c.id DESC LIMIT 100`,
    [viewer.observatoryId, projectId, viewer.personId],
  );

/** The newest change of a person in their observatory that is not undone yet.
 * @param lasting entities that no key takes back */
export const newestOwnChange = (
  queries: Queries,
  viewer: Viewer,
  lasting: readonly string[],
): Promise<StoredChange | null> =>
  queries.one(
    `SELECT c.id::text, c.entity, c.entity_id AS "entityId", c.project_id AS "projectId", c.words, c.before, c.after FROM changes c
     WHERE c.person_id = $1 AND c.observatory_id = $3 AND c.undo_of IS NULL AND c.entity <> ALL ($2) AND c.at > now() - ${UNDO_REACH} AND NOT EXISTS (SELECT 1 FROM changes u WHERE u.undo_of = c.id)
     ORDER BY c.id DESC LIMIT 1`,
    [viewer.personId, lasting, viewer.observatoryId],
  );

/** What others did to the fields of a row after a version of it. */
export const changesSince = (
  queries: Queries,
  entity: string,
  id: string,
  version: number,
): Promise<{ after: Record<string, unknown>; who: string }[]> =>
  queries.rows(
    `SELECT c.after, p.name AS who FROM changes c JOIN people p ON p.id = c.person_id
     WHERE c.entity = $1 AND c.entity_id = $2 AND (c.after->>'version')::int > $3`,
    [entity, id, version],
  );

/** Whether a person owns a project. */
export async function ownsProject(queries: Queries, viewer: Viewer, projectId: string): Promise<boolean> {
  const { observatoryId, personId: ownerId } = viewer;
  return (await queries.models.Project.count({ where: { id: projectId, observatoryId, ownerId } })) > 0;
}
