// Hand changes of a rig's night as rows, and the runs its working plan stays near to.
import type { KeptRun, NightWish } from '@meridiem/core';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';

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

export async function wishRowsOf({ models }: Queries, { rigId, nightDate }: RigNight): Promise<WishRow[]> {
  const rows = await models.HandChange.findAll({ where: { rigId, nightDate }, order: ['created', 'id'] });
  return rows.map(({ id, kind, goalId, panelId, at, count }) => ({
    id,
    kind,
    goalId,
    panelId,
    utcMs: at === null ? null : at.getTime(),
    count,
  }));
}

export const insertWishes = (
  { models }: Queries,
  night: RigNight,
  createdBy: string,
  wishes: readonly WishRow[],
): Promise<unknown> =>
  models.HandChange.bulkCreate(
    wishes.map(({ utcMs, ...wish }) => ({
      ...wish,
      ...night,
      at: utcMs === null ? null : new Date(utcMs),
      created: new Date(),
      createdBy,
    })),
  );

/** @param ids those of the night that go; all of them where left out */
export const deleteWishes = (
  { models }: Queries,
  { rigId, nightDate }: RigNight,
  ids?: readonly string[],
): Promise<unknown> =>
  models.HandChange.destroy({ where: { rigId, nightDate, ...(ids ? { id: { [Op.in]: [...ids] } } : {}) } });

export interface PlacedWish extends WishRow {
  readonly rigId: string;
  readonly projectId: string;
  readonly projectName: string;
  readonly panelName: string;
}

/** A hand change to a panel, held until the transaction ends. */
export const placedWish = (queries: Queries, observatoryId: string, id: string): Promise<PlacedWish | null> =>
  queries.one(
    `SELECT w.id, w.kind, w.goal_id AS "goalId", w.panel_id AS "panelId", (extract(epoch FROM w.at) * 1000)::float8 AS "utcMs", w.count,
       w.rig_id AS "rigId", p.id AS "projectId", p.name AS "projectName", l.name AS "panelName"
     FROM plan_wishes w JOIN panels l ON l.id = w.panel_id JOIN projects p ON p.id = l.project_id WHERE w.id = $1 AND w.observatory_id = $2 FOR UPDATE OF w`,
    [id, observatoryId],
  );

/** The runs that the working plan stays near to; null while no hand has changed it. */
export async function keptRunsOf({ models }: Queries, { rigId, nightDate }: RigNight): Promise<KeptRun[] | null> {
  const draft = await models.PlanDraft.findOne({ where: { rigId, nightDate } });
  return draft && (draft.kept as KeptRun[]);
}

export async function storeKeptRuns(
  { models }: Queries,
  { observatoryId, rigId, nightDate }: RigNight,
  kept: readonly KeptRun[] | null,
): Promise<void> {
  await models.PlanDraft.destroy({ where: { rigId, nightDate } });
  if (kept) await models.PlanDraft.create({ observatoryId, rigId, nightDate, kept });
}
