// An import as its importer, or a coordinator, has it in hand.
import type { Queries } from '../../database/connection.ts';
import type { Import } from '../../database/models/import.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { importOf } from './repository.ts';

export async function ownImport(queries: Queries, viewer: Viewer, id: string, isHeld = false): Promise<Import> {
  const found = await importOf(queries, viewer, id, { isHeld });
  if (!found) throw notFound('import');
  return found;
}

/** One that is not applied yet, held until the transaction ends. */
export async function openImport(queries: Queries, viewer: Viewer, id: string): Promise<Import> {
  const found = await ownImport(queries, viewer, id, true);
  if (found.state !== 'preview')
    throw new ServiceError('NOT_POSSIBLE', 'This import has been applied already; begin another one');
  return found;
}
