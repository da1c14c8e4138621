// Named sets of recipes with counts, as rows.
import type { GoalSet } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';

export async function goalSetsOf({ models }: Queries, observatoryId: string): Promise<GoalSet[]> {
  const [sets, items] = await Promise.all([
    models.GoalSet.findAll({ where: { observatoryId }, order: ['name'] }),
    models.GoalSetItem.findAll({ where: { observatoryId }, order: ['position'] }),
  ]);
  return sets.map(({ id, rigId, name }) => ({
    id,
    rigId,
    name,
    items: items.filter(({ setId }) => setId === id).map(({ recipeId, wanted }) => ({ recipeId, wanted })),
  }));
}

/** A set of a rig by its name, with these items and no others.
 * @returns its id */
export async function putGoalSet(
  { models }: Queries,
  { observatoryId, personId }: Viewer,
  { rigId, name, items }: Omit<GoalSet, 'id'>,
): Promise<string> {
  const there = await models.GoalSet.findOne({ where: { rigId, name } });
  const set =
    (await there?.update({ createdBy: personId })) ??
    (await models.GoalSet.create({ observatoryId, rigId, name, createdBy: personId }));
  await models.GoalSetItem.destroy({ where: { setId: set.id } });
  await models.GoalSetItem.bulkCreate(
    items.map(({ recipeId, wanted }, position) => ({ setId: set.id, observatoryId, position, recipeId, wanted })),
  );
  return set.id;
}
