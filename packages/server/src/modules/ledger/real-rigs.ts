// Which rigs have real devices: what others make up is never credited beside them.
import type { Queries } from '../../database/connection.ts';

export async function realRigs({ models }: Queries, observatoryId: string): Promise<ReadonlySet<string>> {
  const rows = await models.Rig.findAll({ where: { observatoryId, devices: 'address' }, attributes: ['id'] });
  return new Set(rows.map(({ id }) => id));
}

/** Those of the exposures that are made up, where an observatory has real devices. */
export async function uncountedOf(
  queries: Queries,
  observatoryId: string,
  exposureIds: readonly string[],
): Promise<ReadonlySet<string>> {
  if ((await realRigs(queries, observatoryId)).size === 0) return new Set();
  const rows = await queries.models.Exposure.findAll({
    where: { id: [...exposureIds], simulated: true },
    attributes: ['id'],
  });
  return new Set(rows.map(({ id }) => id));
}
