// Rows of a project copied into another one.
import type { Queries } from '../../database/connection.ts';

/** @returns the id of the draft, of whoever copies */
export async function insertCopyOfProject(
  { models }: Queries,
  projectId: string,
  { ownerId, name }: { ownerId: string; name: string },
): Promise<string> {
  const source = (await models.Project.findByPk(projectId))!;
  const { observatoryId, rigId, targetId, counting, judging, private: isPrivate, why } = source;
  const copied = { observatoryId, rigId, targetId, counting, judging, private: isPrivate, why };
  const { id } = await models.Project.create({ ...copied, ownerId, name });
  await copyLimits({ models }, { projectId }, { projectId: id });
  return id;
}

/** Goals one by one, each with its own limits. */
export async function copyGoals(
  { models }: Pick<Queries, 'models'>,
  fromPanelId: string,
  toPanelId: string,
): Promise<void> {
  const goals = await models.Goal.findAll({ where: { panelId: fromPanelId }, order: ['position'] });
  for (const { id: goalId, observatoryId, recipeRevisionId, wanted, why, enabled, position } of goals) {
    const copied = { observatoryId, recipeRevisionId, wanted, why, enabled, position };
    const { id } = await models.Goal.create({ ...copied, panelId: toPanelId });
    await copyLimits({ models }, { goalId }, { goalId: id });
  }
}

type Scope = { readonly projectId: string } | { readonly goalId: string };

async function copyLimits({ models }: Pick<Queries, 'models'>, from: Scope, to: Scope): Promise<void> {
  const limits = await models.LimitValue.findAll({ where: { ...from }, order: ['id'] });
  await models.LimitValue.bulkCreate(
    limits.map(({ observatoryId, class: ofClass, key, value, isOff }) => ({
      observatoryId,
      class: ofClass,
      key,
      value,
      isOff,
      ...to,
    })),
  );
}
