// Agreed shares: periods that never overlap, sums that don't exceed the whole.
import type { Allotment, BodyOf, SharePeriod, addSharePeriod, editFairness } from '@meridiem/contract';
import { SHARED_SKIES } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { storeSetting } from '../../database/settings-repository.ts';
import { NOW } from '../../database/now.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { takeBackSetting } from '../changes/index.ts';
import { overlappingPeriods, periodsOf, replaceAllotments } from './repository.ts';
import type { SharesParts } from './service.ts';
import { agreedShare } from './shares-in-force.ts';
import { fairnessOf } from './standing.ts';

type PeriodFields = BodyOf<typeof addSharePeriod>;

/** Sums written in percent may miss the whole by their rounding. */
const ROUNDING = 1e-6;

export function createPeriods({ database, changes }: SharesParts) {
  changes.register('share_periods', { by: 'coordinator', takeBack: (queries, _viewer, change) => takeBackPeriod(queries, change) }); // prettier-ignore
  changes.register('fairness', { by: 'coordinator', takeBack: (queries, _viewer, change) => takeBackSetting(queries, change) }); // prettier-ignore

  const changing = <T>(viewer: Viewer, work: (queries: Queries) => Promise<T>): Promise<T> =>
    database.transaction(async (queries) => {
      const result = await work(queries);
      for (const topic of ['ledger', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
      return result;
    });

  const recorded = (queries: Queries, viewer: Viewer, id: string, words: string, before: object, after: object) =>
    changes.record(queries, viewer, {
      entity: 'share_periods',
      entityId: id,
      projectId: null,
      words,
      before: { ...before },
      after: { ...after },
    });

  return {
    addPeriod: (viewer: Viewer, fields: PeriodFields): Promise<{ id: string }> =>
      changing(viewer, async (queries) => {
        const { observatoryId, personId } = viewer;
        await refuseWrongPeriod(queries, observatoryId, fields, null);
        const { firstNight, lastNight } = fields;
        const { id } = await queries.models.SharePeriod.create({ observatoryId, firstNight, lastNight, personId });
        await replaceAllotments(queries, observatoryId, id, fields.allotments);
        await recorded(
          queries,
          viewer,
          id,
          `shares agreed from ${firstNight}`,
          { withdrawn: true },
          { withdrawn: false },
        );
        return { id };
      }),

    editPeriod: (viewer: Viewer, id: string, fields: PeriodFields): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const before = await periodNamed(queries, observatoryId, id);
        await refuseWrongPeriod(queries, observatoryId, fields, id);
        await storePeriod(queries, observatoryId, id, fields);
        await recorded(queries, viewer, id, `shares from ${fields.firstNight}`, fieldsOf(before), fields);
        return { ok: true };
      }),

    removePeriod: (viewer: Viewer, id: string): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const { firstNight } = await periodNamed(queries, viewer.observatoryId, id);
        await queries.models.SharePeriod.update({ withdrawn: NOW }, { where: { id } });
        await recorded(queries, viewer, id, `shares from ${firstNight} taken away`, { withdrawn: false }, { withdrawn: true }); // prettier-ignore
        return { ok: true };
      }),

    editFairness: (viewer: Viewer, edit: BodyOf<typeof editFairness>): Promise<{ ok: true }> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const before = await fairnessOf(queries, observatoryId);
        const after = { ...before, ...edit };
        await storeSetting(queries, observatoryId, 'fairness', after);
        await changes.record(queries, viewer, {
          entity: 'fairness',
          entityId: observatoryId,
          projectId: null,
          words: `how much fairness counts: ${Math.round(100 * after.fairness)} %, at most ${after.carryOverNights} nights carried over`,
          before: { ...before },
          after,
        });
        return { ok: true };
      }),
  };
}

const fieldsOf = ({ firstNight, lastNight, allotments }: SharePeriod): PeriodFields => ({
  firstNight,
  lastNight,
  allotments,
});

async function periodNamed(queries: Queries, observatoryId: string, id: string): Promise<SharePeriod> {
  const period = (await periodsOf(queries, observatoryId)).find((one) => one.id === id);
  if (!period) throw notFound('period');
  return period;
}

async function storePeriod(
  queries: Queries,
  observatoryId: string,
  id: string,
  { firstNight, lastNight, allotments }: PeriodFields,
): Promise<void> {
  await queries.models.SharePeriod.update({ firstNight, lastNight }, { where: { id } });
  await replaceAllotments(queries, observatoryId, id, allotments);
}

/** Nights the right way round and free, members and rigs of this observatory, sums within the whole. */
async function refuseWrongPeriod(
  queries: Queries,
  observatoryId: string,
  { firstNight, lastNight, allotments }: PeriodFields,
  exceptId: string | null,
): Promise<void> {
  if (lastNight && lastNight < firstNight)
    throw refused('lastNight', `The last night lies before the first, ${firstNight}`);
  const [other] = await overlappingPeriods(queries, observatoryId, { firstNight, lastNight }, exceptId);
  if (other)
    throw refused('firstNight', `Shares are agreed already from ${other.firstNight}; change or end those first`);
  const { models } = queries;
  const rigs = (await models.Rig.findAll({ where: { observatoryId } })).map(({ id }) => id);
  const members = (await models.Membership.findAll({ where: { observatoryId } })).map(({ personId }) => personId);
  for (const { memberId, rigId } of allotments) {
    if (!members.includes(memberId)) throw notFound('member');
    if (rigId !== null && !rigs.includes(rigId)) throw notFound('rig');
  }
  const keys = allotments.map(({ memberId, rigId, skyClass }) => `${memberId} ${rigId} ${skyClass}`);
  if (new Set(keys).size < keys.length)
    throw refused('allotments', 'One member has two shares of the same rig and sky');
  refuseMoreThanAll(allotments, rigs);
}

function refuseMoreThanAll(allotments: readonly Allotment[], rigs: readonly string[]): void {
  const members = [...new Set(allotments.map(({ memberId }) => memberId))];
  for (const rigId of rigs)
    for (const skyClass of SHARED_SKIES) {
      const sum = members.reduce(
        (total, memberId) => total + agreedShare({ allotments: [...allotments] }, { memberId, rigId, skyClass }),
        0,
      );
      if (sum > 1 + ROUNDING)
        throw refused('allotments', `Shares of ${skyClass === 'dark' ? 'moonless' : 'moonlit'} hours add up to ${Math.round(100 * sum)} %`); // prettier-ignore
      if (sum <= 0) throw refused('allotments', 'At least one member must have a share');
    }
}

async function takeBackPeriod(queries: Queries, { entityId: id, before, after }: StoredChange): Promise<void> {
  const row = (await queries.models.SharePeriod.findByPk(id))!;
  if ('withdrawn' in before) {
    const { observatoryId, firstNight, lastNight } = row;
    if (
      !before.withdrawn &&
      (await overlappingPeriods(queries, observatoryId, { firstNight, lastNight }, id)).length > 0
    )
      throw new ServiceError('CONFLICT', 'Other shares have been agreed for these nights since');
    await row.update({ withdrawn: before.withdrawn ? NOW : null });
    return;
  }
  const stands = (await periodsOf(queries, row.observatoryId)).find((one) => one.id === id);
  const isAsWritten = stands !== undefined && sortedText(fieldsOf(stands)) === sortedText(after as PeriodFields);
  if (!isAsWritten) throw new ServiceError('CONFLICT', 'Another person has changed these shares since');
  await refuseWrongPeriod(queries, row.observatoryId, before as PeriodFields, id);
  await storePeriod(queries, row.observatoryId, id, before as PeriodFields);
}

const sortedText = ({ firstNight, lastNight, allotments }: PeriodFields): string =>
  JSON.stringify([firstNight, lastNight, allotments.map(({ memberId, rigId, skyClass, share }) => [memberId, rigId, skyClass, share].join()).toSorted()]); // prettier-ignore
