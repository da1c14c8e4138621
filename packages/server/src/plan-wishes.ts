// Hand changes of a rig's night as rows, and the runs its working plan stays near to.
import type { KeptRun, NightWish } from '@meridiem/core';
import type { Queries } from './database/connection.ts';
import { insertRows } from './database/insert-rows.ts';

export interface RigNight {
  readonly observatoryId: string;
  readonly rigId: string;
  readonly nightDate: string;
}

export interface WishRow {
  readonly id: string;
  readonly kind: NightWish['kind'];
  readonly goalId: string | null;
  readonly panelId: string | null;
  readonly utcMs: number | null;
  readonly count: number | null;
}

export const wishRowsOf = (queries: Queries, { rigId, nightDate }: RigNight): Promise<WishRow[]> =>
  queries.rows(
    `SELECT id, kind, goal_id AS "goalId", panel_id AS "panelId", (extract(epoch FROM at) * 1000)::float8 AS "utcMs", count
     FROM plan_wishes WHERE rig_id = $1 AND night_date = $2 ORDER BY created, id`,
    [rigId, nightDate],
  );

export const insertWishes = (
  queries: Queries,
  { observatoryId, rigId, nightDate }: RigNight,
  personId: string,
  wishes: readonly WishRow[],
): Promise<void> =>
  insertRows(
    queries,
    'plan_wishes',
    wishes.map(({ id, kind, goalId, panelId, utcMs, count }) => ({
      id,
      observatory_id: observatoryId,
      rig_id: rigId,
      night_date: nightDate,
      kind,
      goal_id: goalId,
      panel_id: panelId,
      at: utcMs === null ? null : new Date(utcMs).toISOString(),
      count,
      created: new Date().toISOString(),
      created_by: personId,
    })),
  );

/** The runs that the working plan stays near to; null while no hand has changed it. */
export async function keptRunsOf(queries: Queries, { rigId, nightDate }: RigNight): Promise<KeptRun[] | null> {
  const row = await queries.one<{ kept: KeptRun[] }>(
    'SELECT kept FROM plan_drafts WHERE rig_id = $1 AND night_date = $2',
    [rigId, nightDate],
  );
  return row?.kept ?? null;
}

export async function storeKeptRuns(
  queries: Queries,
  { observatoryId, rigId, nightDate }: RigNight,
  kept: readonly KeptRun[] | null,
): Promise<void> {
  await queries.rows('DELETE FROM plan_drafts WHERE rig_id = $1 AND night_date = $2', [rigId, nightDate]);
  if (kept)
    await queries.rows('INSERT INTO plan_drafts (observatory_id, rig_id, night_date, kept) VALUES ($1, $2, $3, $4)', [
      observatoryId,
      rigId,
      nightDate,
      JSON.stringify(kept),
    ]);
}
