// What joined projects share: pairs of goals for plans, and the second credit of an exposure for the ledger.
import type { JoinedGoals, JoinMatch } from '@meridiem/core';
import { matchJoined } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { NewAttribution } from '../ledger/index.ts';
import type { JoinRow, SharedGoal } from './repository.ts';
import { joinablePanels, joinsOf, sharedGoals } from './repository.ts';

type Match = JoinMatch['pairs'][number] & { readonly join: JoinRow };

async function matchesOf(queries: Queries, joins: readonly JoinRow[]): Promise<Match[]> {
  if (joins.length === 0) return [];
  const panels = await joinablePanels(queries, { projectIds: joins.flatMap(({ fromId, toId }) => [fromId, toId]) });
  return joins.flatMap((join) =>
    matchJoined(panels.get(join.fromId) ?? [], panels.get(join.toId) ?? []).pairs.map((pair) => ({ ...pair, join })),
  );
}

/** Goals of a rig that one exposure serves from now on. */
export async function joinedGoalsOf(queries: Queries, rigId: string): Promise<JoinedGoals[]> {
  const joins = (await joinsOf(queries, { rigId })).filter(({ untilUtcMs }) => untilUtcMs === null);
  return (await matchesOf(queries, joins)).map(({ goals }) => goals);
}

type Credited = NewAttribution & { readonly exposureId: string; readonly startUtcMs: number };

/** Attributions together with those of joined projects that still wanted the same exposures when they were taken. Both are
 * charged in the shares agreed; what only one still wants is that one’s alone, with its charge. */
export async function withPartners(queries: Queries, credited: readonly Credited[]): Promise<Credited[]> {
  const projectIds = [...new Set(credited.flatMap(({ projectId, goalId }) => (goalId ? [projectId] : [])))];
  const joins = projectIds.length === 0 ? [] : await joinsOf(queries, { projectIds });
  const matches = await matchesOf(queries, joins);
  if (matches.length === 0) return [...credited];
  const goals = await sharedGoals(
    queries,
    matches.flatMap(({ goals: pair }) => [...pair]),
  );
  const held = new Map(goals.map((goal) => [goal.goalId, goal.held]));
  // What a goal holds grows while the exposures are gone through in their order.
  const wants = (goal: SharedGoal): boolean => goal.wanted === null || held.get(goal.goalId)! < goal.wanted;
  const hold = (goalId: string, share: number) => held.set(goalId, (held.get(goalId) ?? 0) + share);
  return [...credited]
    .sort((a, b) => a.startUtcMs - b.startUtcMs)
    .flatMap((one) => {
      const match = matches.find((candidate) => isOf(candidate, one));
      if (!match || !one.goalId) return [one];
      const partner = goals.find(({ goalId }) => goalId === match.goals.find((id) => id !== one.goalId))!;
      const own = goals.find(({ goalId }) => goalId === one.goalId)!;
      const takers = wants(partner) ? [partner, ...(wants(own) ? [own] : [])] : [own];
      for (const { goalId } of takers) hold(goalId, one.creditShare);
      if (takers.length === 2) return bothOf(one, partner, match);
      return takers[0] === own ? [one] : [passedOn(one, partner, match)];
    });
}

const isOf = ({ goals, join }: Match, { goalId, startUtcMs }: Credited): boolean =>
  goals.some((id) => id === goalId) &&
  join.sinceUtcMs <= startUtcMs &&
  (join.untilUtcMs === null || startUtcMs < join.untilUtcMs);

function bothOf(one: Credited, partner: SharedGoal, match: Match): Credited[] {
  const { fromId, fromShare } = match.join;
  const ownShare = one.projectId === fromId ? fromShare : 1 - fromShare;
  return [
    { ...one, chargeShare: ownShare },
    { ...passedOn(one, partner, match), chargeShare: 1 - ownShare },
  ];
}

const passedOn = (one: Credited, { goalId, projectId, panelId }: SharedGoal, { coverage }: Match): Credited => ({
  ...one,
  goalId,
  projectId,
  panelId,
  coverage,
  reason: 'taken for a joined project',
});
