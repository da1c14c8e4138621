// Goals that were added go again, goals that were put on panels get their counts back.
import type { Queries } from '../../database/connection.ts';
import type { Goal } from '../../database/models/goal.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';
import { deleteGoals, isAnyExposed, setWanted } from './goals-repository.ts';

export const takeBackGoals = (queries: Queries, { after }: StoredChange): Promise<void> =>
  takeOff(queries, after.ids as string[]);

/** Goals that were put on panels go again, those that took a count get theirs back. */
export async function takeBackPutGoals(queries: Queries, { after }: StoredChange): Promise<void> {
  for (const { id, wanted, was } of after.changed as { id: string; wanted: number | null; was: number | null }[]) {
    if (!(await setWanted(queries, id, was, wanted)))
      throw new ServiceError('CONFLICT', 'Another person has changed one of these goals since');
  }
  await takeOff(queries, after.added as string[]);
}

async function takeOff(queries: Queries, ids: readonly string[]): Promise<void> {
  if (await isAnyExposed(queries, ids))
    throw new ServiceError('CONFLICT', 'Exposures have been taken for this goal since; switch it off instead');
  await deleteGoals(queries, ids);
}

/** A removed goal is there again, with its own id; its panel may have been dropped, or its recipe taken by another goal since. */
export async function putGoalBack({ models }: Queries, observatoryId: string, { before }: StoredChange): Promise<void> {
  const goal = before as Pick<Goal, 'id' | 'panelId' | 'recipeRevisionId' | 'position'> &
    Partial<Pick<Goal, 'wanted' | 'why' | 'enabled'>>;
  if (!(await models.Panel.findOne({ where: { id: goal.panelId, observatoryId } })))
    throw new ServiceError('CONFLICT', 'The panel of this goal is gone');
  await models.Goal.create({ observatoryId, ...goal });
}
