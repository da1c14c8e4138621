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

export interface CopiedPanel {
  readonly fromId: string;
  readonly name: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
}

/** Panels of a new project, in their order.
 * @returns the place of each copied panel */
export async function insertPanels(
  { models }: Queries,
  { observatoryId, projectId }: { observatoryId: string; projectId: string },
  panels: readonly CopiedPanel[],
): Promise<Map<string, string>> {
  const places = panels.map(({ name }, i) => ({ observatoryId, projectId, position: i + 1, name }));
  const rows = await models.Panel.bulkCreate(places, { returning: ['id'] });
  await models.PanelPointing.bulkCreate(
    panels.map(({ raDeg, decDeg, positionAngleDeg }, i) => ({
      observatoryId,
      panelId: rows[i].id,
      seq: 1,
      ...{ raDeg, decDeg, positionAngleDeg },
    })),
  );
  return new Map(panels.map(({ fromId }, i) => [fromId, rows[i].id]));
}

/** The goals of panels with their own limits.
 * @param placeOf by panel the one that is given its goals */
export async function copyGoals(
  { models }: Pick<Queries, 'models'>,
  placeOf: ReadonlyMap<string, string>,
): Promise<void> {
  const goals = await models.Goal.findAll({ where: { panelId: [...placeOf.keys()] }, order: ['panelId', 'position'] });
  const copies = await models.Goal.bulkCreate(
    goals.map(({ observatoryId, panelId, recipeRevisionId, wanted, why, enabled, position }) => ({
      observatoryId,
      panelId: placeOf.get(panelId)!,
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
