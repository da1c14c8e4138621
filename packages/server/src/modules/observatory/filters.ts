// Filters: added, edited with undo, retired once no rig and no recipe has them.
import type { BodyOf, Observatory, addFilter, editFilter } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { inForce, momentOfChange } from '../../database/validity.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { editableTable, editFields } from '../changes/index.ts';
import { projectsThrough, recipesOf } from './repository.ts';
import type { ObservatoryUse } from './service.ts';

const FILTER_FIELDS = editableTable('filters', 'Filter', [
  'letter',
  'name',
  'class',
  'centreNm',
  'widthNm',
  'extinctionMagPerAirmass',
  'zenithMag',
  'moonFactor',
]);

export function createFilters({ changes, changing }: ObservatoryUse) {
  changes.registerFields(FILTER_FIELDS, 'coordinator');
  return {
    addFilter: (viewer: Viewer, body: BodyOf<typeof addFilter>): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        await refuseSameLetter(queries, observatoryId, body.letter);
        const position = await queries.models.Filter.count({ where: { observatoryId } });
        await queries.models.Filter.create({ observatoryId, position, ...body });
      }),

    editFilter: (
      viewer: Viewer,
      filterId: string,
      { version, ...fields }: BodyOf<typeof editFilter>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        if (fields.letter !== undefined) await refuseSameLetter(queries, observatoryId, fields.letter, filterId);
        const edited = await editFields(queries, {
          table: FILTER_FIELDS,
          id: filterId,
          observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'filters',
            entityId: filterId,
            projectId: null,
            words: 'a filter',
            ...edited,
          });
      }),

    retireFilter: (viewer: Viewer, filterId: string): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const { observatoryId } = viewer;
        const filter = await queries.models.Filter.findOne({ where: { id: filterId, observatoryId, retired: null } });
        if (!filter) throw notFound('filter');
        const recipes = (await recipesOf(queries, observatoryId)).filter((recipe) => recipe.filterId === filterId);
        if (recipes.length > 0)
          throw new ServiceError(
            'NOT_POSSIBLE',
            `Recipes use ${filter.letter}: ${recipes.map(({ name }) => name).join(', ')}. Retire them first`,
          );
        const goals = await projectsThrough(queries, filterId);
        if (goals.length > 0)
          throw new ServiceError('NOT_POSSIBLE', `Goals of ${goals.join(', ')} go through ${filter.letter}`);
        if ((await queries.models.FilterSlot.count({ where: { filterId, during: inForce() } })) > 0)
          throw new ServiceError('NOT_POSSIBLE', `${filter.letter} is fitted to a rig; take it out of the wheel first`);
        await filter.update({ retired: momentOfChange() });
      }),
  };
}

async function refuseSameLetter(
  { models }: Queries,
  observatoryId: string,
  letter: string,
  exceptId?: string,
): Promise<void> {
  const same = await models.Filter.findOne({ where: { observatoryId, letter } });
  if (!same || same.id === exceptId) return;
  throw refused(
    'letter',
    same.retired
      ? `A retired filter is called "${letter}"; bring it back or choose another short name`
      : `There is a filter called "${letter}" already`,
  );
}
