// Hand changes of a rig's night: kept in rows, one step a change, taken back by undo.
import type { BodyOf, changeByHand, HandChange } from '@meridiem/contract';
import type { KeptRun, NightWish, PlannedBlock } from '@meridiem/core';
import { DateTime } from 'luxon';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { PlacedWish, RigNight, WishRow } from './hand-changes-repository.ts';
import {
  deleteWishes,
  insertWishes,
  keptRunsOf,
  placedWish,
  storeKeptRuns,
  wishRowsOf,
} from './hand-changes-repository.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { editFields } from '../changes/index.ts';
import { GOAL_FIELDS } from '../../goal-fields.ts';
import { setLimitValue } from '../limits/index.ts';
import type { GoalRow } from './goals-repository.ts';

export const nightWish = ({ id, kind, goalId, panelId, utcMs, count }: WishRow): NightWish =>
  kind === 'pin'
    ? { id, kind, goalId: goalId!, startUtcMs: utcMs!, count: count! }
    : kind === 'ban'
      ? { id, kind, panelId: panelId! }
      : { id, kind, panelId: panelId!, utcMs: utcMs! };

export const runsOfPlan = (blocks: readonly PlannedBlock[]): KeptRun[] =>
  blocks.flatMap(({ runs }) =>
    runs.map(({ goalId, startUtcMs, exposureStartsUtcMs }) => ({
      goalId,
      startUtcMs,
      count: exposureStartsUtcMs.length,
    })),
  );

/** Stores changes in place of others; a change of the same kind to the same panel replaces the one before.
 * @param kept what the plan stays near to from now on */
export async function storeHandChanges(
  queries: Queries,
  viewer: Viewer,
  night: RigNight,
  { changes, replaces }: BodyOf<typeof changeByHand>,
  at: { readonly rows: readonly GoalRow[]; readonly kept: readonly KeptRun[]; readonly changes: ChangeService },
): Promise<void> {
  const { rigId, nightDate } = night;
  await queries.models.Rig.findByPk(rigId, { lock: true });
  const before = await wishRowsOf(queries, night);
  for (const change of changes) refuseUnknown(change, at.rows);
  const same = before.filter((row) =>
    changes.some((change) => change.kind !== 'pin' && change.kind === row.kind && change.panelId === row.panelId),
  );
  const gone = [...replaces, ...same.map(({ id }) => id)];
  await deleteWishes(queries, night, gone);
  const added = changes.map((change): WishRow => ({
    id: change.id,
    kind: change.kind,
    goalId: change.kind === 'pin' ? change.goalId : null,
    panelId: change.kind === 'pin' ? null : change.panelId,
    utcMs: 'utcMs' in change ? Math.round(change.utcMs) : null,
    count: change.kind === 'pin' ? change.count : null,
  }));
  await insertWishes(queries, night, viewer.personId, added);
  const draft = await keptRunsOf(queries, night);
  const left = await wishRowsOf(queries, night);
  await storeKeptRuns(queries, night, left.length === 0 ? null : at.kept);
  await at.changes.record(queries, viewer, {
    entity: 'plan_wishes',
    entityId: rigId,
    projectId: null,
    words: wordsOf(changes, gone.length),
    before: { nightDate, wishes: before, kept: draft },
    after: { nightDate, wishes: left },
  });
}

function refuseUnknown(change: HandChange, rows: readonly GoalRow[]): void {
  const known =
    change.kind === 'pin'
      ? rows.some(({ goalId }) => goalId === change.goalId)
      : rows.some(({ panelId }) => panelId === change.panelId);
  if (!known) throw refused(change.kind === 'pin' ? 'goalId' : 'panelId', 'This is not planned on this rig');
}

const KIND_WORDS: Readonly<Record<NightWish['kind'], string>> = {
  pin: 'a run set by hand',
  ban: 'a panel left out by hand',
  not_before: 'a panel held back',
  not_after: 'a panel cut off',
};
const wordsOf = (changes: readonly HandChange[], gone: number): string =>
  changes.length === 0
    ? gone === 1
      ? 'a hand change removed'
      : 'hand changes removed'
    : [...new Set(changes.map(({ kind }) => KIND_WORDS[kind]))].join(', ');

/** Makes a hand change last and takes it off the night.
 * @returns what was changed, in words */
export async function keepForGood(
  queries: Queries,
  viewer: Viewer,
  wishId: string,
  { timeZone, changes }: { timeZone: string; changes: ChangeService },
): Promise<{ rigId: string; words: string }> {
  const wish = await placedWish(queries, viewer.observatoryId, wishId);
  if (!wish) throw notFound('hand change that can be kept; a run set by hand belongs to its night');
  await queries.models.HandChange.destroy({ where: { id: wishId } });
  const words =
    wish.kind === 'ban'
      ? await switchOff(queries, viewer, wish, changes)
      : await limitHours(queries, viewer, wish, timeZone, changes);
  return { rigId: wish.rigId, words };
}

async function switchOff(queries: Queries, viewer: Viewer, wish: PlacedWish, changes: ChangeService): Promise<string> {
  const goals = await queries.models.Goal.findAll({
    where: { panelId: wish.panelId!, enabled: true },
    order: ['position'],
  });
  for (const { id, version } of goals) {
    const edited = await editFields(queries, {
      table: GOAL_FIELDS,
      id,
      observatoryId: viewer.observatoryId,
      baseVersion: version,
      fields: { enabled: false },
    });
    const words = `enabled of ${wish.panelName}`;
    if (edited)
      await changes.record(queries, viewer, {
        entity: 'goals',
        entityId: id,
        projectId: wish.projectId,
        words,
        ...edited,
      });
  }
  return `The goals of ${wish.panelName} are switched off`;
}

async function limitHours(
  queries: Queries,
  viewer: Viewer,
  wish: PlacedWish,
  timeZone: string,
  changes: ChangeService,
): Promise<string> {
  const key = wish.kind === 'not_before' ? 'notBeforeClockMin' : 'notAfterClockMin';
  const local = DateTime.fromMillis(wish.utcMs!, { zone: timeZone });
  const value = local.hour * 60 + local.minute;
  await setLimitValue(queries, viewer, {
    wish: { scope: 'project', scopeId: wish.projectId, class: null, key, setting: { value } },
    projectId: wish.projectId,
    changes,
  });
  return `${wish.projectName} is exposed ${wish.kind === 'not_before' ? 'not before' : 'not after'} ${local.toFormat('HH:mm')} on every night`;
}
