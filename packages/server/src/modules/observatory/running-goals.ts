// Goals that are under way when their rig gets other optics: closed with what they have, or gone on with as new ones.
import type { GoalFate } from '@meridiem/contract';
import { literal, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService, StoredChange } from '../changes/index.ts';
import type { RunningGoal } from './effects-repository.ts';
import { runningGoals } from './effects-repository.ts';

export interface ProjectFate {
  readonly projectId: string;
  readonly fate: GoalFate;
}

const ENTITY = 'goals_of_gear';

/** Says how the fate of goals is taken back: closed ones run again, new ones go. */
export const registerGoalFates = (changes: ChangeService): void =>
  changes.register(ENTITY, { by: 'coordinator', takeBack: (queries, _viewer, change) => takeBack(queries, change) });

export interface FatePlace {
  readonly changes: ChangeService;
  readonly viewer: Viewer;
  readonly rigId: string;
  readonly rigName: string;
}

export async function settleGoals(queries: Queries, place: FatePlace, fates: readonly ProjectFate[]): Promise<void> {
  for (const { projectId, fate } of fates) if (fate !== 'same') await settle(queries, place, { projectId, fate });
}

async function settle(
  queries: Queries,
  { changes, viewer, rigId, rigName }: FatePlace,
  { projectId, fate }: ProjectFate,
): Promise<void> {
  const goals = await runningGoals(queries, viewer.observatoryId, { rigId, projectId });
  if (goals.length === 0) return;
  const closed = goals.map(({ id }) => id);
  await setEnabled(queries, closed, false);
  const added: string[] = [];
  if (fate === 'new') for (const goal of goals) added.push(await goesOn(queries, viewer.observatoryId, goal));
  const count = `${goals.length} ${goals.length === 1 ? 'goal' : 'goals'}`;
  await changes.record(queries, viewer, {
    entity: ENTITY,
    entityId: closed[0],
    projectId,
    words:
      fate === 'new'
        ? `${count} go on as new ones after ${rigName} was changed`
        : `${count} closed, for ${rigName} was changed`,
    before: {},
    after: { closed, added },
  });
}

const setEnabled = ({ models }: Queries, ids: readonly string[], enabled: boolean): Promise<unknown> =>
  models.Goal.update({ enabled, version: literal('version + 1') as never }, { where: { id: { [Op.in]: [...ids] } } });

/** A goal beside the closed one that wants what that one lacks, under the same limits.
 * @returns its id */
async function goesOn(
  { models }: Queries,
  observatoryId: string,
  { id, panelId, recipeRevisionId, why, missing, position }: RunningGoal,
): Promise<string> {
  const goal = await models.Goal.create({ observatoryId, panelId, recipeRevisionId, why, wanted: missing, position });
  const limits = await models.LimitValue.findAll({ where: { goalId: id } });
  await models.LimitValue.bulkCreate(
    limits.map(({ class: of, key, value, isOff }) => ({
      observatoryId,
      goalId: goal.id,
      class: of,
      key,
      value,
      isOff,
    })),
  );
  return goal.id;
}

async function takeBack(queries: Queries, { after }: StoredChange): Promise<void> {
  const { closed, added } = after as { closed: string[]; added: string[] };
  const { models } = queries;
  const exposed = await models.GoalTotal.count({
    where: { goalId: { [Op.in]: added }, exposureCount: { [Op.gt]: 0 } },
  });
  if (exposed > 0)
    throw new ServiceError(
      'CONFLICT',
      'Exposures have been taken for the new goals since; switch goals on or off by hand',
    );
  await models.LimitValue.destroy({ where: { goalId: { [Op.in]: added } } });
  await models.Goal.destroy({ where: { id: { [Op.in]: added } } });
  await setEnabled(queries, closed, true);
}
