// What a season reckons with: odds of clear nights by month, and nights that are closed.
import type { BodyOf, Observatory, addClosure, editClimateMonth } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { editableTable, editFields } from '../changes/index.ts';
import type { StoredChange } from '../changes/index.ts';
import type { ObservatoryUse } from './service.ts';

const MONTH_FIELDS = editableTable('climate_months', 'ClimateMonth', ['clearOdds']);
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December']; // prettier-ignore
/** As the table holds it. */
const LONGEST_DAYS = 400;
const DAY_MS = 86_400_000;

export function createClimate({ changes, changing }: ObservatoryUse) {
  changes.registerFields(MONTH_FIELDS, 'coordinator');
  changes.register('closures', {
    by: 'coordinator',
    takeBack: (queries, _viewer, change) => takeBackClosure(queries, change),
  });

  const setWithdrawn = async (
    queries: Queries,
    viewer: Viewer,
    closure: { id: string; reason: string; firstNight: string; lastNight: string },
    isWithdrawn: boolean,
  ): Promise<void> => {
    const { id, reason, firstNight, lastNight } = closure;
    await changes.record(queries, viewer, {
      entity: 'closures',
      entityId: id,
      projectId: null,
      words: `${isWithdrawn ? 'open again' : 'closed'} from ${firstNight} to ${lastNight}: ${reason}`,
      before: { withdrawn: !isWithdrawn },
      after: { withdrawn: isWithdrawn },
    });
  };

  return {
    editClimateMonth: (
      viewer: Viewer,
      id: string,
      { version, ...fields }: BodyOf<typeof editClimateMonth>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const month = await queries.models.ClimateMonth.findOne({ where: { id, observatoryId } });
        if (!month) throw notFound('month');
        const edited = await editFields(queries, {
          table: MONTH_FIELDS,
          id,
          observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'climate_months',
            entityId: id,
            projectId: null,
            words: `clear nights in ${MONTHS[month.month - 1]}`,
            ...edited,
          });
      }),

    addClosure: (
      viewer: Viewer,
      { rigId, firstNight, lastNight, reason }: BodyOf<typeof addClosure>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const { observatoryId, personId } = viewer;
        if (lastNight < firstNight) throw refused('lastNight', `The last night lies before the first, ${firstNight}`);
        if (Date.parse(lastNight) - Date.parse(firstNight) >= LONGEST_DAYS * DAY_MS)
          throw refused('lastNight', `Nights can be closed for ${LONGEST_DAYS} days at a time`);
        if (rigId && !(await queries.models.Rig.findOne({ where: { id: rigId, observatoryId } })))
          throw notFound('rig');
        const values = { observatoryId, rigId, firstNight, lastNight, reason: reason.trim(), personId };
        await setWithdrawn(queries, viewer, await queries.models.Closure.create(values), false);
      }),

    removeClosure: (viewer: Viewer, id: string): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const closure = await queries.models.Closure.findOne({
          where: { id, observatoryId: viewer.observatoryId, withdrawn: null },
        });
        if (!closure) throw notFound('closure');
        await closure.update({ withdrawn: new Date() });
        await setWithdrawn(queries, viewer, closure, true);
      }),
  };
}

async function takeBackClosure({ models }: Queries, { entityId, before }: StoredChange): Promise<void> {
  await models.Closure.update({ withdrawn: before.withdrawn ? new Date() : null }, { where: { id: entityId } });
}
