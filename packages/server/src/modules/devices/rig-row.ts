// A rig of the viewer's observatory as a row, for what its devices are told.
import type { Queries } from '../../database/connection.ts';
import type { Rig } from '../../database/models/rig.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';

/** @throws ServiceError where there is none, or it is retired */
export async function rigOf({ models }: Queries, { observatoryId }: Viewer, id: string, lock = false): Promise<Rig> {
  const rig = await models.Rig.findOne({ where: { id, observatoryId, retired: null }, lock });
  if (!rig) throw notFound('rig');
  return rig;
}
