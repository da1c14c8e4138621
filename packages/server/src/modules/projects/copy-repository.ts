// Rows of a project copied into another one.
import type { WhereOptions } from 'sequelize';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { LimitValue } from '../../database/models/limit-value.ts';

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
  await copyLimits({ models }, { projectId }, () => ({ projectId: id }));
  return id;
}

/** The goals of a panel with their own limits. */
export async function copyGoals(
  { models }: Pick<Queries, 'models'>,
  fromPanelId: string,
  toPanelId: string,
): Promise<void> {
  const goals = await models.Goal.findAll({ where: { panelId: fromPanelId }, order: ['position'] });
  const copies = await models.Goal.bulkCreate(
    goals.map(({ observatoryId, recipeRevisionId, wanted, why, enabled, position }) => ({
      observatoryId,
      panelId: toPanelId,
      recipeRevisionId,
      wanted,
      why,
      enabled,
      position,
    })),
    { returning: ['id'] },
  );
  const copyOf = new Map(goals.map(({ id }, i) => [id, copies[i].id]));
  await copyLimits({ models }, { goalId: { [Op.in]: [...copyOf.keys()] } }, ({ goalId }) => ({
    goalId: copyOf.get(goalId!)!,
  }));
}

async function copyLimits(
  { models }: Pick<Queries, 'models'>,
  where: WhereOptions<LimitValue>,
  placeOf: (limit: LimitValue) => { readonly projectId: string } | { readonly goalId: string },
): Promise<void> {
  const limits = await models.LimitValue.findAll({ where, order: ['id'] });
  await models.LimitValue.bulkCreate(
    limits.map((limit) => {
      const { observatoryId, class: ofClass, key, value, isOff } = limit;
      return { observatoryId, class: ofClass, key, value, isOff, ...placeOf(limit) };
    }),
  );
}
