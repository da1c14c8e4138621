// Who changed what, and taking one's own last change back by a compensating change.
import type { ResponseOf, listChanges } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import { takeBackHandChanges } from './take-back-hand-changes.ts';
import { takeBackReframing } from './take-back-reframing.ts';

export interface NewChange {
  /** 'goals', 'projects', 'observatories', 'filters' for field edits; 'goal_added', 'limit', 'verdicts' for their own kinds. */
  readonly entity: string;
  readonly entityId: string;
  readonly projectId: string | null;
  readonly words: string;
  readonly before: Record<string, unknown>;
  readonly after: Record<string, unknown>;
  readonly undoOf?: string;
}

interface StoredChange extends Omit<NewChange, 'undoOf'> {
  readonly id: string;
}

const UNDO_REACH = `interval '30 days'`;
/** Comings and goings of people are changed back by hand, not by a key. */
const LASTING = ['memberships'];
const EDITED_TABLES = ['goals', 'projects', 'observatories', 'filters'];

export type ChangeService = ReturnType<typeof createChangeService>;

export function createChangeService({ database }: { database: Database }) {
  const record = async (queries: Queries, viewer: Viewer, change: NewChange): Promise<void> => {
    const { entity, entityId, projectId, words, before, after, undoOf } = change;
    await queries.rows(
      `INSERT INTO changes (observatory_id, person_id, entity, entity_id, project_id, words, before, after, undo_of) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
      [
        viewer.observatoryId,
        viewer.personId,
        entity,
        entityId,
        projectId,
        words,
        JSON.stringify(before),
        JSON.stringify(after),
        undoOf ?? null,
      ],
    );
  };

  return {
    record,

    async list(viewer: Viewer, projectId: string | null): Promise<ResponseOf<typeof listChanges>['changes']> {
      return database.rows(
        `SELECT c.id::int, (extract(epoch FROM c.at) * 1000)::float8 AS at, p.name AS who, c.words, EXISTS (SELECT 1 FROM changes u WHERE u.undo_of = c.id) AS undone
         FROM changes c JOIN people p ON p.id = c.person_id
         WHERE c.observatory_id = $1 AND ($2::uuid IS NULL OR c.project_id = $2)
           AND (c.project_id IS NULL OR EXISTS (SELECT 1 FROM projects x WHERE x.id = c.project_id AND ${maySee('x', '$3', viewer.role)})) ORDER BY c.id DESC LIMIT 100`,
        [viewer.observatoryId, projectId, viewer.personId],
      );
    },

    async undoLast(viewer: Viewer): Promise<{ words: string }> {
      return database.transaction(async (queries) => {
        const change = await queries.one<StoredChange>(
          `SELECT c.id::text, c.entity, c.entity_id AS "entityId", c.project_id AS "projectId", c.words, c.before, c.after FROM changes c
           WHERE c.person_id = $1 AND c.undo_of IS NULL AND c.entity <> ALL ($2) AND c.at > now() - ${UNDO_REACH} AND NOT EXISTS (SELECT 1 FROM changes u WHERE u.undo_of = c.id)
           ORDER BY c.id DESC LIMIT 1`,
          [viewer.personId, LASTING],
        );
        if (!change) throw new ServiceError('NOTHING_TO_UNDO', 'There is nothing of yours to undo');
        await takeBack(queries, viewer, change);
        const words = `Undone: ${change.words}`;
        await record(queries, viewer, {
          ...change,
          words,
          before: change.after,
          after: change.before,
          undoOf: change.id,
        });
        for (const topic of ['projects', 'ledger', 'plan', 'observatory'] as const)
          await announce(queries, viewer.observatoryId, topic);
        return { words };
      });
    },
  };
}

async function takeBack(queries: Queries, viewer: Viewer, change: StoredChange): Promise<void> {
  if (EDITED_TABLES.includes(change.entity)) return takeBackFields(queries, change);
  if (change.entity === 'goal_added') return takeBackGoals(queries, change);
  if (change.entity === 'limit') return takeBackLimit(queries, viewer, change);
  if (change.entity === 'verdicts') return takeBackVerdicts(queries, viewer, change);
  if (change.entity === 'imports') return takeBackImport(queries, change);
  if (change.entity === 'time_remarks') return takeBackRemark(queries, change);
  if (change.entity === 'reframing') return takeBackReframing(queries, change);
  if (change.entity === 'plan_wishes') return takeBackHandChanges(queries, viewer, change);
  if (change.entity === 'goals_put') return takeBackPutGoals(queries, change);
  if (change.entity === 'promotion') return takeBackPromotion(queries, change);
  if (change.entity === 'shelf') return takeBackShelving(queries, change);
  if (change.entity === 'charging') return takeBackSetting(queries, change);
  throw new ServiceError('NOTHING_TO_UNDO', `"${change.words}" can't be undone`);
}

async function takeBackFields(queries: Queries, { entity, entityId, before, after }: StoredChange): Promise<void> {
  const row = await queries.one(`SELECT * FROM ${entity} WHERE id = $1 FOR UPDATE`, [entityId]);
  const columns = Object.keys(before);
  const builtUpon = columns.find((column) => String(row?.[column] ?? '') !== String(after[column] ?? ''));
  if (!row || builtUpon)
    throw new ServiceError('CONFLICT', 'Somebody has changed this since; undo would take their change away', {
      field: builtUpon ?? 'id',
    });
  const sets = columns.map((column, i) => `${column} = $${i + 2}`).join(', ');
  await queries.rows(`UPDATE ${entity} SET ${sets}, version = version + 1 WHERE id = $1`, [
    entityId,
    ...columns.map((column) => before[column]),
  ]);
}

async function takeBackGoals(queries: Queries, { after }: StoredChange): Promise<void> {
  const ids = after.ids as string[];
  const used = await queries.one(`SELECT 1 FROM goal_totals WHERE goal_id = ANY ($1) AND exposure_count > 0`, [ids]);
  if (used) throw new ServiceError('CONFLICT', 'Exposures have been taken for this goal since; switch it off instead');
  await queries.rows('DELETE FROM goals WHERE id = ANY ($1)', [ids]);
}

/** Goals that were put on panels go again, those that took a count get theirs back. */
async function takeBackPutGoals(queries: Queries, { before, after }: StoredChange): Promise<void> {
  for (const { id, wanted, was } of after.changed as { id: string; wanted: number | null; was: number | null }[]) {
    const row = await queries.one(
      'UPDATE goals SET wanted = $2, version = version + 1 WHERE id = $1 AND wanted IS NOT DISTINCT FROM $3 RETURNING id',
      [id, was, wanted],
    );
    if (!row) throw new ServiceError('CONFLICT', 'Somebody has changed one of these goals since');
  }
  await takeBackGoals(queries, { after: { ids: after.added }, before } as unknown as StoredChange);
}

/** The exposures belong to nobody again; the project stays as a retired shell, for its history. */
async function takeBackPromotion(queries: Queries, { entityId, after }: StoredChange): Promise<void> {
  const later = await queries.one(
    'SELECT 1 FROM attributions WHERE project_id = $1 AND withdrawn IS NULL AND id <> ALL ($2)',
    [entityId, after.attributionIds as string[]],
  );
  if (later) throw new ServiceError('CONFLICT', 'Other exposures have come to this project since; retire it instead');
  await queries.rows('UPDATE attributions SET withdrawn = now() WHERE id = ANY ($1) AND withdrawn IS NULL', [
    after.attributionIds as string[],
  ]);
  await queries.rows(`UPDATE projects SET state = 'retired', version = version + 1 WHERE id = $1`, [entityId]);
}

async function takeBackLimit(queries: Queries, viewer: Viewer, { before, after }: StoredChange): Promise<void> {
  const {
    projectId,
    goalId,
    class: ofClass,
    key,
  } = after as { projectId: string | null; goalId: string | null; class: string | null; key: string };
  const scope = [viewer.observatoryId, projectId, goalId, ofClass, key];
  await queries.rows(
    `DELETE FROM limit_values WHERE observatory_id = $1 AND project_id IS NOT DISTINCT FROM $2 AND goal_id IS NOT DISTINCT FROM $3 AND class IS NOT DISTINCT FROM $4 AND key = $5`,
    scope,
  );
  if (before.absent) return;
  await queries.rows(
    `INSERT INTO limit_values (observatory_id, project_id, goal_id, class, key, value, is_off) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [...scope, before.value ?? null, before.isOff ?? false],
  );
}

/** Each verdict of the change gets a row that withdraws it; the one before is in force again. */
async function takeBackVerdicts(queries: Queries, viewer: Viewer, { after }: StoredChange): Promise<void> {
  await queries.rows(
    `INSERT INTO verdicts (observatory_id, exposure_id, origin, by_coordinator, person_id, verdict, reason, withdraws)
     SELECT v.observatory_id, v.exposure_id, 'hand', $2, $3, v.verdict, 'taken back', v.seq FROM verdicts v WHERE v.seq = ANY ($1::bigint[])`,
    [after.seqs as string[], viewer.role === 'coordinator', viewer.personId],
  );
}

/** The exposures that an import added leave the ledger with their credit; the files of the import still name them. */
async function takeBackImport(queries: Queries, { entityId }: StoredChange): Promise<void> {
  const judged = await queries.one(
    `SELECT 1 FROM import_files f JOIN imports i ON i.id = f.import_id JOIN verdicts v ON v.exposure_id = f.exposure_id
     WHERE f.import_id = $1 AND f.outcome = 'added' AND v.origin = 'hand' AND v.reason <> 'as imported' AND v.at > i.applied AND v.withdraws IS NULL
       AND NOT EXISTS (SELECT 1 FROM verdicts w WHERE w.withdraws = v.seq)`,
    [entityId],
  );
  if (judged)
    throw new ServiceError(
      'CONFLICT',
      'Exposures of this import have been judged by hand since; take those verdicts back first',
    );
  await queries.rows(
    `UPDATE attributions a SET withdrawn = now() FROM import_files f WHERE f.import_id = $1 AND f.outcome = 'added' AND a.exposure_id = f.exposure_id AND a.withdrawn IS NULL`,
    [entityId],
  );
  await queries.rows(
    `INSERT INTO exposure_presence (observatory_id, exposure_id, import_id, present) SELECT observatory_id, exposure_id, import_id, false FROM import_files WHERE import_id = $1 AND outcome = 'added'`,
    [entityId],
  );
  await queries.rows(`UPDATE imports SET state = 'undone' WHERE id = $1`, [entityId]);
}

/** A remark said or taken back; saying it again may collide with one said since. */
async function takeBackRemark(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const overlapping = await queries.one(
    `SELECT 1 FROM time_remarks r JOIN time_remarks o ON o.rig_id = r.rig_id AND o.id <> r.id AND o.withdrawn IS NULL AND o.during && r.during WHERE r.id = $1`,
    [entityId],
  );
  if (!before.withdrawn && overlapping)
    throw new ServiceError('CONFLICT', 'Somebody has said something else of this time since');
  await queries.rows('UPDATE time_remarks SET withdrawn = CASE WHEN $2 THEN now() END WHERE id = $1', [
    entityId,
    Boolean(before.withdrawn),
  ]);
}

async function takeBackShelving(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const taken = await queries.one(
    `SELECT 1 FROM targets t JOIN targets o ON o.observatory_id = t.observatory_id AND o.id <> t.id AND o.shelved AND lower(o.name) = lower(t.name) WHERE t.id = $1`,
    [entityId],
  );
  if (before.shelved && taken) throw new ServiceError('CONFLICT', 'A target of this name is on the shelf again');
  await queries.rows('UPDATE targets SET shelved = $2 WHERE id = $1', [entityId, Boolean(before.shelved)]);
}

async function takeBackSetting(queries: Queries, { entity, entityId, before, after }: StoredChange): Promise<void> {
  const changed = await queries.one(
    'UPDATE settings SET value = $3 WHERE observatory_id = $1 AND key = $2 AND value = $4::jsonb RETURNING key',
    [entityId, entity, JSON.stringify(before), JSON.stringify(after)],
  );
  if (!changed)
    throw new ServiceError('CONFLICT', 'Somebody has changed this since; undo would take their change away');
}
