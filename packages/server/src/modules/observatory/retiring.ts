// What is offered no longer: a rig out of service for good; and bringing anything retired back.
import type { Observatory } from '@meridiem/contract';
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
        where: { rigId, state: ['draft', 'proposed', 'queued', 'granted'] },
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
      if (!(await isRestored(queries, viewer.observatoryId, id))) throw notFound('retired rig, filter, mode or recipe');
    }),
});

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
