// Work of a visit settled: done and measured, left, or removed. Only here does what a visit changes become a dated fact.
import type { BodyOf, ResponseOf, readMeasuredAngles, settleVisitJob } from '@meridiem/contract';
import { wrap360 } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { VisitJob } from '../../database/models/visit-job.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { changeSlots, measureAngle, rigsOf } from '../observatory/index.ts';
import type { RigRecord } from '../observatory/index.ts';
import { changingVisits } from './changing.ts';
import { measuredFrames, openJob } from './repository.ts';
import type { VisitParts } from './service.ts';

type Outcome = BodyOf<typeof settleVisitJob>;
interface Measured {
  readonly measuredDeg: number | null;
  readonly exposureId: string | null;
}

const OUTCOME_WORDS = { done: 'confirmed', left: 'left', removed: 'removed' } as const;
const WORK_WORDS: Readonly<Record<VisitJob['work'], string>> = {
  angle: 'the turn of a camera',
  filter: 'an exchange of filters',
  cleaning: 'cleaning',
  mask: 'work on the mask',
  focus: 'focusing by hand',
  other: 'work of a visit',
};

export function createSettling({ database, changes }: VisitParts) {
  changes.register('visit_jobs', { by: 'helper', takeBack });

  return {
    settle: (viewer: Viewer, id: string, { outcome, ...measured }: Outcome): Promise<{ ok: true }> =>
      changingVisits(database, viewer, async (queries) => {
        const { observatoryId, personId } = viewer;
        const job = await openJob(queries, observatoryId, id);
        if (!job) throw notFound('work of a visit');
        if (job.state !== 'open') throw new ServiceError('CONFLICT', 'This work has been settled already');
        const visit = await queries.models.Visit.findOne({ where: { id: job.visitId, cancelled: false } });
        if (!visit) throw new ServiceError('CONFLICT', 'This visit has been cancelled');
        const isTurned = outcome === 'done' && job.work === 'angle';
        const found = isTurned
          ? await measurementOf(queries, job, visit.nightDate, measured)
          : { measuredDeg: null, exposureId: null };
        const before = outcome === 'done' ? await makeFact(queries, job, found.measuredDeg) : {};
        const isSettled = outcome !== 'removed';
        await job.update({
          state: outcome,
          ...found,
          settled: isSettled ? new Date() : null,
          settledBy: isSettled ? personId : null,
        });
        await changes.record(queries, viewer, {
          entity: 'visit_jobs',
          entityId: id,
          projectId: null,
          words: `${OUTCOME_WORDS[outcome]} ${WORK_WORDS[job.work]}`,
          before: { state: 'open', ...before },
          after: { state: outcome },
        });
        return { ok: true };
      }),

    async measuredAngles(viewer: Viewer, rigId: string): Promise<ResponseOf<typeof readMeasuredAngles>> {
      const { observatoryId } = viewer;
      if (!(await database.models.Rig.findOne({ where: { id: rigId, observatoryId } }))) throw notFound('rig');
      return { frames: await measuredFrames(database, { observatoryId, rigId }) };
    },
  };
}

/** Typed, or of a frame of the same rig that was exposed since the visit: one from before shows the angle before. */
async function measurementOf(
  queries: Queries,
  { observatoryId, rigId }: VisitJob,
  nightDate: string,
  { measuredDeg, exposureId }: Omit<Outcome, 'outcome'>,
): Promise<Measured> {
  if (exposureId !== undefined) {
    const [frame] = await measuredFrames(queries, { observatoryId, rigId, exposureId });
    if (!frame) throw refused('exposureId', 'That frame is none of this rig’s with world coordinates');
    if (frame.nightDate < nightDate) throw refused('exposureId', 'That frame was exposed before the visit');
    return { measuredDeg: wrap360(frame.skyAngleDeg), exposureId };
  }
  if (measuredDeg === undefined)
    throw refused('measuredDeg', 'Give the angle measured after the turn, or take it from a frame');
  return { measuredDeg, exposureId: null };
}

/** From now on the rig is as it was left.
 * @returns what it was before, for taking back */
async function makeFact(queries: Queries, job: VisitJob, measuredDeg: number | null): Promise<Record<string, unknown>> {
  const { observatoryId, rigId, work, fitsId, removesId } = job;
  if (work !== 'angle' && work !== 'filter') return {};
  const rig = await rigOf(queries, job);
  if (work === 'angle') {
    await measureAngle(queries, { observatoryId, rigId }, measuredDeg);
    return { skyAngleDeg: rig.skyAngleDeg };
  }
  await exchange(queries, rig, observatoryId, { fits: fitsId!, removes: removesId });
  return {};
}

async function rigOf(queries: Queries, { observatoryId, rigId }: VisitJob): Promise<RigRecord> {
  // Held, so that two confirmations of one rig wait for each other.
  await queries.models.Rig.findOne({ where: { id: rigId, observatoryId }, lock: true });
  return (await rigsOf(queries, observatoryId)).find(({ id }) => id === rigId)!;
}

/** A filter in the place of another, or in the first free one.
 * @throws CONFLICT where the wheel is not as the work supposes */
async function exchange(
  queries: Queries,
  { id: rigId, slots }: RigRecord,
  observatoryId: string,
  { fits, removes }: { fits: string; removes: string | null },
): Promise<void> {
  if (slots.some(({ filterId }) => filterId === fits))
    throw new ServiceError('CONFLICT', 'That filter is in the wheel already');
  const gone = slots.filter(({ filterId }) => filterId === removes);
  if (removes !== null && gone.length === 0)
    throw new ServiceError('CONFLICT', 'The filter that it was to replace is not in the wheel any more');
  const taken = new Set(slots.map(({ slot }) => slot));
  const free = gone[0]?.slot ?? Array.from({ length: slots.length + 1 }, (_, i) => i + 1).find((n) => !taken.has(n))!;
  await changeSlots(queries, { observatoryId, rigId }, { gone, fresh: [{ slot: free, filterId: fits, focusOffsetSteps: null }] }); // prettier-ignore
}

/** What was confirmed holds until now, and what was before holds from now on: nothing that was measured is rewritten. */
async function takeBack(queries: Queries, _viewer: Viewer, { entityId, before, after }: StoredChange): Promise<void> {
  const job = (await queries.models.VisitJob.findByPk(entityId, { lock: true }))!;
  if (job.state !== after.state) throw new ServiceError('CONFLICT', 'This work has been settled otherwise since');
  if (after.state === 'done') await unmake(queries, job, before);
  const state = before.state as VisitJob['state'];
  const isSettled = state === 'done' || state === 'left';
  if (isSettled) throw new ServiceError('CONFLICT', 'Settled work is settled again by hand');
  await job.update({ state, settled: null, settledBy: null, measuredDeg: null, exposureId: null });
}

async function unmake(queries: Queries, job: VisitJob, before: StoredChange['before']): Promise<void> {
  const { observatoryId, rigId, work, fitsId, removesId, measuredDeg } = job;
  if (work !== 'angle' && work !== 'filter') return;
  const rig = await rigOf(queries, job);
  if (work === 'angle') {
    if (rig.skyAngleDeg !== measuredDeg)
      throw new ServiceError('CONFLICT', 'The camera’s angle has been measured again since');
    await measureAngle(queries, { observatoryId, rigId }, (before.skyAngleDeg ?? null) as number | null);
    return;
  }
  const fitted = rig.slots.filter(({ filterId }) => filterId === fitsId);
  if (fitted.length === 0) throw new ServiceError('CONFLICT', 'The wheel has been changed since');
  const fresh = removesId === null ? [] : [{ slot: fitted[0].slot, filterId: removesId, focusOffsetSteps: null }];
  await changeSlots(queries, { observatoryId, rigId }, { gone: fitted, fresh });
}
