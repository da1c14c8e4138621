// A limit as it was before a change.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import type { LimitPlace } from './repository.ts';
import { insertLimit, removeLimit } from './repository.ts';

export async function takeBackLimit(
  queries: Queries,
  { observatoryId }: Viewer,
  { before, after }: StoredChange,
): Promise<void> {
  const { projectId, goalId, class: ofClass, key } = after as unknown as LimitPlace;
  const place = { observatoryId, projectId, goalId, class: ofClass, key };
  await removeLimit(queries, place);
  if (before.absent) return;
  const { value, isOff } = before as { value?: number | null; isOff?: boolean };
  await insertLimit(queries, place, { value: value ?? null, isOff: isOff ?? false });
}
