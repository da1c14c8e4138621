// Joined projects: one exposure serves a goal of each, so it is planned once, is worth what it is to both, and keeps the limits of both.
import type { SkyField } from '../framing/coverage.ts';
import { coverageOf } from '../framing/coverage.ts';
import { COVERAGE_SURE } from '../ledger/matching.ts';
import type { NightRequest, RequestedGoal } from './night/night-request.ts';

/** Goals of two projects that ask for the same exposures. */
export type JoinedGoals = readonly [goalId: string, otherGoalId: string];

/** A request in which what two goals both want is planned once: as the goal that wants fewer. The other is left with what it
 * wants beyond that; where that is nothing, it comes with the first. A pair of which only one still wants is no pair.
 * @param pairs each goal in at most one
 * @returns the request with other goals; the same request where no pair is wanted by both */
export function withJoined(request: NightRequest, pairs: readonly JoinedGoals[]): NightRequest {
  const changed = new Map<string, RequestedGoal>();
  for (const pair of pairs) {
    const own = pair.map((id) => request.goals.find((goal) => goal.id === id));
    const [first, second] = own;
    if (!first || !second || first.toPlan <= 0 || second.toPlan <= 0) continue;
    const [lead, other] = first.toPlan <= second.toPlan ? [first, second] : [second, first];
    changed.set(lead.id, { ...lead, sharedWith: shareOf(request, other) });
    changed.set(other.id, {
      ...other,
      toPlan: other.toPlan - lead.toPlan,
      done: Math.min(other.done + lead.toPlan, other.wanted ?? Infinity),
      comesWith: lead.id,
    });
  }
  if (changed.size === 0) return request;
  return { ...request, goals: request.goals.map((goal) => changed.get(goal.id) ?? goal) };
}

function shareOf({ panels, projects }: NightRequest, goal: RequestedGoal): NonNullable<RequestedGoal['sharedWith']> {
  const { projectId } = panels.find(({ id }) => id === goal.panelId)!;
  const { weight, limits } = projects.find(({ id }) => id === projectId)!;
  return { weight, limits: [...goal.limits, ...limits] };
}

/** A panel as joining sees it. */
export interface JoinablePanel {
  readonly panelId: string;
  /** Null where it has no place. */
  readonly field: SkyField | null;
  /** What exposures of a goal are: filter, length, binning, camera mode. Equal words, exchangeable exposures. */
  readonly goals: readonly { readonly goalId: string; readonly exposures: string }[];
}

export interface JoinMatch {
  /** How much of one field the other holds, of the two panels that share most, [0, 1]. */
  readonly coverage: number;
  readonly pairs: readonly { readonly goals: JoinedGoals; readonly coverage: number }[];
}

/** The goals of two projects that one exposure could serve: same exposures on panels that hold at least nine tenths of each other.
 * Each panel and goal is in one pair at most, panels by the most sky shared first. */
export function matchJoined(own: readonly JoinablePanel[], other: readonly JoinablePanel[]): JoinMatch {
  const shared = own
    .flatMap((panel) => other.map((partner) => ({ panel, partner, coverage: sharedShare(panel, partner) })))
    .sort((a, b) => b.coverage - a.coverage);
  const taken = new Set<string>();
  const pairs = shared.flatMap(({ panel, partner, coverage }) => {
    if (coverage < COVERAGE_SURE || taken.has(panel.panelId) || taken.has(partner.panelId)) return [];
    taken.add(panel.panelId).add(partner.panelId);
    return pairsOf(panel, partner).map((goals) => ({ goals, coverage }));
  });
  return { coverage: shared[0]?.coverage ?? 0, pairs };
}

const sharedShare = ({ field }: JoinablePanel, { field: other }: JoinablePanel): number =>
  field && other ? Math.min(coverageOf(field, other), coverageOf(other, field)) : 0;

function pairsOf(panel: JoinablePanel, partner: JoinablePanel): JoinedGoals[] {
  const left = [...partner.goals];
  return panel.goals.flatMap(({ goalId, exposures }): JoinedGoals[] => {
    const at = left.findIndex((goal) => goal.exposures === exposures);
    return at < 0 ? [] : [[goalId, left.splice(at, 1)[0].goalId]];
  });
}
