// Brings the hand changes of a night back to how they were before a change.
import type { KeptRun } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { WishRow } from './hand-changes-repository.ts';
import { deleteWishes, insertWishes, storeKeptRuns, wishRowsOf } from './hand-changes-repository.ts';
import type { Viewer } from '../../plugins/sessions.ts';

/** @throws CONFLICT where somebody has changed the night by hand since */
export async function takeBackHandChanges(
  queries: Queries,
  viewer: Viewer,
  { entityId, before, after }: { entityId: string; before: Record<string, unknown>; after: Record<string, unknown> },
): Promise<void> {
  const night = { observatoryId: viewer.observatoryId, rigId: entityId, nightDate: String(before.nightDate) };
  const idsOf = (rows: readonly WishRow[]): string =>
    rows
      .map(({ id }) => id)
      .sort()
      .join();
  if (idsOf(await wishRowsOf(queries, night)) !== idsOf(after.wishes as WishRow[]))
    throw new ServiceError('CONFLICT', 'This night’s plan has been changed by hand since; undo would take that away');
  await deleteWishes(queries, night);
  await insertWishes(queries, night, viewer.personId, before.wishes as WishRow[]);
  await storeKeptRuns(queries, night, before.kept as KeptRun[] | null);
}
