// Limits as rows: one value a scope, class and key; no row inherits.
import { Transaction } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { LimitValue } from '../../database/models/limit-value.ts';

export type LimitPlace = Pick<LimitValue, 'observatoryId' | 'projectId' | 'goalId' | 'class' | 'key'>;

export type Scope = 'observatory' | 'project' | 'goal';

export interface StoredLimit {
  readonly value: number | null;
  readonly isOff: boolean;
}

const NO_KEY_UPDATE = Transaction.LOCK.NO_KEY_UPDATE;

/** Changes of one scope's limits come one after the other, so that each tells what stood before it. */
export const lockScope = ({ models }: Queries, scope: Scope, id: string): Promise<unknown> =>
  ({
    observatory: () => models.Observatory.findByPk(id, { lock: NO_KEY_UPDATE }),
    project: () => models.Project.findByPk(id, { lock: NO_KEY_UPDATE }),
    goal: () => models.Goal.findByPk(id, { lock: NO_KEY_UPDATE }),
  })[scope]();

/** @returns what stood there; null where it was inherited */
export async function removeLimit({ models }: Queries, place: LimitPlace): Promise<StoredLimit | null> {
  const stored = await models.LimitValue.findOne({ where: { ...place } });
  await stored?.destroy();
  return stored && { value: stored.value, isOff: stored.isOff };
}

export const insertLimit = ({ models }: Queries, place: LimitPlace, limit: StoredLimit): Promise<unknown> =>
  models.LimitValue.create({ ...place, ...limit });

export const projectOfGoal = (
  queries: Queries,
  observatoryId: string,
  goalId: string,
): Promise<{ id: string; ownerId: string; private: boolean } | null> =>
  queries.one(
    'SELECT p.id, p.owner_id AS "ownerId", p.private FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id WHERE g.id = $1 AND p.observatory_id = $2',
    [goalId, observatoryId],
  );

export const projectById = (
  { models }: Queries,
  observatoryId: string,
  id: string,
): Promise<{ id: string; ownerId: string; private: boolean } | null> =>
  models.Project.findOne({ where: { id, observatoryId } });
