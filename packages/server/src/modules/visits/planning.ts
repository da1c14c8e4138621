// Visits planned: when, who goes, what is to be done there.
import type { BodyOf, NewVisitJob, ResponseOf, addVisit, editVisit, readVisits } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { editableTable, editFields } from '../changes/index.ts';
import { changingVisits } from './changing.ts';
import { handsOf, visitsOf } from './repository.ts';
import type { VisitParts } from './service.ts';

const VISIT_FIELDS = editableTable('visits', 'Visit', ['nightDate', 'goesId', 'words', 'cancelled']);

export function createVisitPlanning({ database, changes, observatory: observatories }: VisitParts) {
  changes.registerFields(VISIT_FIELDS, 'helper');

  /** @throws REFUSED where the day is over or taken */
  async function refuseDay(queries: Queries, viewer: Viewer, nightDate: string, ownId?: string): Promise<void> {
    const { observatoryId } = viewer;
    const { tonight } = await observatories.read(observatoryId);
    if (nightDate < tonight) throw refused('nightDate', `That night is over; the next one is ${tonight}`);
    const other = await queries.models.Visit.findOne({ where: { observatoryId, nightDate, cancelled: false } });
    if (other && other.id !== ownId)
      throw refused('nightDate', 'A visit is planned for that day already: add the work to it');
  }

  async function refuseStranger(queries: Queries, { observatoryId }: Viewer, goesId: string | null): Promise<void> {
    if (goesId === null) return;
    const hands = await handsOf(queries, observatoryId);
    if (!hands.some(({ personId }) => personId === goesId)) throw refused('goesId', 'Choose a helper or a coordinator');
  }

  return {
    async read(viewer: Viewer): Promise<ResponseOf<typeof readVisits>> {
      const { tonight } = await observatories.read(viewer.observatoryId);
      return {
        visits: await visitsOf(database, viewer.observatoryId, tonight),
        hands: await handsOf(database, viewer.observatoryId),
      };
    },

    add: (viewer: Viewer, { jobs, ...body }: BodyOf<typeof addVisit>): Promise<{ id: string }> =>
      changingVisits(database, viewer, async (queries) => {
        const { observatoryId, personId } = viewer;
        await refuseDay(queries, viewer, body.nightDate);
        await refuseStranger(queries, viewer, body.goesId);
        for (const [i, job] of jobs.entries()) await refuseJob(queries, viewer, job, `jobs.${i}.`);
        const { id } = await queries.models.Visit.create({ ...body, observatoryId, personId });
        await queries.models.VisitJob.bulkCreate(jobs.map((job) => ({ ...job, observatoryId, visitId: id })));
        await changes.record(queries, viewer, {
          entity: 'visits',
          entityId: id,
          projectId: null,
          words: `planned a visit before the night of ${body.nightDate}`,
          before: { cancelled: true },
          after: { cancelled: false },
        });
        return { id };
      }),

    edit: (viewer: Viewer, id: string, { version, ...fields }: BodyOf<typeof editVisit>): Promise<{ ok: true }> =>
      changingVisits(database, viewer, async (queries) => {
        const { observatoryId } = viewer;
        if (fields.nightDate !== undefined) await refuseDay(queries, viewer, fields.nightDate, id);
        if (fields.goesId !== undefined) await refuseStranger(queries, viewer, fields.goesId);
        const edit = { table: VISIT_FIELDS, id, observatoryId, baseVersion: version, fields };
        const edited = await editFields(queries, edit);
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'visits',
            entityId: id,
            projectId: null,
            words: fields.cancelled ? 'cancelled a visit' : 'changed a visit',
            ...edited,
          });
        return { ok: true };
      }),

    addJob: (viewer: Viewer, visitId: string, job: NewVisitJob): Promise<{ id: string }> =>
      changingVisits(database, viewer, async (queries) => {
        const { observatoryId } = viewer;
        const visit = await queries.models.Visit.findOne({ where: { id: visitId, observatoryId, cancelled: false } });
        if (!visit) throw notFound('visit');
        await refuseJob(queries, viewer, job);
        const { id } = await queries.models.VisitJob.create({ ...job, observatoryId, visitId });
        await changes.record(queries, viewer, {
          entity: 'visit_jobs',
          entityId: id,
          projectId: null,
          words: `added work to the visit before ${visit.nightDate}`,
          before: { state: 'removed' },
          after: { state: 'open' },
        });
        return { id };
      }),
  };
}

/** @throws REFUSED at the field, NOT_FOUND for what isn't here */
async function refuseJob(queries: Queries, { observatoryId }: Viewer, job: NewVisitJob, at = ''): Promise<void> {
  const { rigId, work, skyAngleDeg, fitsId, removesId, words } = job;
  const rig = await queries.models.Rig.findOne({ where: { id: rigId, observatoryId } });
  if (!rig) throw notFound('rig');
  if ((work === 'angle') !== (skyAngleDeg !== null))
    throw refused(`${at}skyAngleDeg`, work === 'angle' ? 'Give the angle to turn the camera to, in degrees' : 'Only turning the camera has an angle'); // prettier-ignore
  if ((work === 'filter') !== (fitsId !== null))
    throw refused(`${at}fitsId`, work === 'filter' ? 'Choose the filter to put in' : 'Only an exchange of filters has one'); // prettier-ignore
  if (removesId !== null && (fitsId === null || removesId === fitsId))
    throw refused(`${at}removesId`, 'A filter makes place for another one');
  if (work === 'other' && words.trim() === '') throw refused(`${at}words`, 'Say what is to be done');
  for (const id of [fitsId, removesId])
    if (id !== null && !(await queries.models.Filter.findOne({ where: { id, observatoryId } }))) throw notFound('filter'); // prettier-ignore
}
