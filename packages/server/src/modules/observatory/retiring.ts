// What is offered no longer: a rig out of service for good; and bringing anything retired back.
import type { Observatory } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { momentOfChange } from '../../database/validity.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryUse } from './service.ts';

export const createRetiring = ({ changing }: ObservatoryUse) => ({
  /** Projects that are open must be moved or retired before. */
  retireRig: (viewer: Viewer, rigId: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const rig = await queries.models.Rig.findOne({ where: { id: rigId, observatoryId, retired: null }, lock: true });
      if (!rig) throw notFound('rig');
      const open = await queries.models.Project.findAll({
        where: { rigId, state: { [Op.ne]: 'retired' } },
        order: ['created'],
      });
      if (open.length > 0)
        throw new ServiceError(
          'NOT_POSSIBLE',
          `Projects use ${rig.name}: ${open.map(({ name }) => name).join(', ')}. Move them to another rig or retire them first`,
        );
      await rig.update({ retired: momentOfChange() });
    }),

  restore: (viewer: Viewer, id: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      await refuseRecipeWithoutParts(queries, viewer.observatoryId, id);
      if (!(await isRestored(queries, viewer.observatoryId, id))) throw notFound('retired rig, filter, mode or recipe');
    }),
});

/** A recipe comes back after its filter and its camera mode. */
async function refuseRecipeWithoutParts({ models }: Queries, observatoryId: string, id: string): Promise<void> {
  const recipe = await models.Recipe.findOne({ where: { id, observatoryId } });
  if (!recipe) return;
  const newest = await models.RecipeRevision.findOne({ where: { recipeId: id }, order: [['seq', 'DESC']] });
  const filter = recipe.filterId === null ? null : await models.Filter.findByPk(recipe.filterId);
  const mode = await models.CameraMode.findByPk(newest!.cameraModeId);
  const missing = filter?.retired ? `filter ${filter.letter}` : mode?.retired ? `camera mode ${mode.name}` : null;
  if (missing) throw new ServiceError('NOT_POSSIBLE', `This recipe needs the ${missing}: bring that back first`);
}

async function isRestored({ models }: Queries, observatoryId: string, id: string): Promise<boolean> {
  const where = { id, observatoryId };
  const counts = [
    await models.Rig.update({ retired: null }, { where }),
    await models.Filter.update({ retired: null }, { where }),
    await models.CameraMode.update({ retired: null }, { where }),
    await models.Recipe.update({ retired: null }, { where }),
  ];
  return counts.some(([count]) => count > 0);
}
