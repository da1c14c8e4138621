// What shares and grants make of a night's request: whoever is behind counts for more, and nobody gets more than was granted.
import type { NightSky } from '@meridiem/contract';
import type { NightRequest, SharedSky } from '@meridiem/core';
import { exposureCycleSec, nightMultiplier } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { chargeWeightsOf, standingRows } from '../shares/index.ts';
import type { GoalRow } from './goals-repository.ts';

interface TonightAt {
  readonly id: string;
  readonly tonight: string;
}

/** What an hour of each project's owner counts on a rig in a night: the mean over both skies by what the night has of each, of those that its grants still hold. */
export async function multipliersOf(
  queries: Queries,
  { id: observatoryId, tonight }: TonightAt,
  { rigId, sky }: { rigId: string; sky: Pick<NightSky, 'darkHours' | 'darkMoonlessHours'> },
  rows: readonly GoalRow[],
): Promise<Map<string, number>> {
  const { rows: standing } = await standingRows(queries, { observatoryId, tonight });
  const of = (ownerId: string, skyClass: SharedSky): number =>
    standing.find((row) => row.memberId === ownerId && row.rigId === rigId && row.skyClass === skyClass)?.multiplier ??
    1;
  const night = { dark: sky.darkMoonlessHours, bright: Math.max(0, sky.darkHours - sky.darkMoonlessHours) };
  return new Map(
    rows.map(({ projectId, ownerId, envelope }) => {
      const held = (skyClass: SharedSky): number => (envelope && envelope[skyClass] <= 0 ? 0 : night[skyClass]);
      const multipliers = { dark: of(ownerId, 'dark'), bright: of(ownerId, 'bright') };
      return [projectId, nightMultiplier(multipliers, { dark: held('dark'), bright: held('bright') })];
    }),
  );
}

/** Counts of a night's goals, fewer where a project's grants hold less than they would take. */
export async function withinGrants(
  queries: Queries,
  observatoryId: string,
  request: NightRequest,
  rows: readonly GoalRow[],
): Promise<NightRequest> {
  const bounded = new Map(
    rows.flatMap(({ projectId, envelope }) => (envelope ? [[projectId, envelope] as const] : [])),
  );
  if (bounded.size === 0) return request;
  const weights = await chargeWeightsOf(queries, observatoryId);
  const projectOf = new Map(request.panels.map(({ id, projectId }) => [id, projectId]));
  const secOf = ({ toPlan, settings }: NightRequest['goals'][number]): number =>
    toPlan * exposureCycleSec(request.rig.costs, settings);
  const shareOf = new Map(
    [...bounded].map(([projectId, { dark, bright }]) => {
      const own = request.goals.filter(({ panelId }) => projectOf.get(panelId) === projectId);
      const neededSec = own.reduce((sum, goal) => sum + secOf(goal), 0);
      const heldSec = 3600 * (clockHours(dark, weights.dark) + clockHours(bright, weights.bright));
      return [projectId, neededSec > heldSec ? heldSec / neededSec : 1];
    }),
  );
  return {
    ...request,
    goals: request.goals.map((goal) => {
      const share = shareOf.get(projectOf.get(goal.panelId)!) ?? 1;
      return share < 1 ? { ...goal, toPlan: Math.ceil(goal.toPlan * share) } : goal;
    }),
  };
}

/** Hours that cost nothing are not bounded by what was granted. */
const UNBOUNDED_HOURS = 1e6;

/** Clock hours that charged ones buy. */
export const clockHours = (chargedHours: number, weight: number): number =>
  weight > 0 ? chargedHours / weight : UNBOUNDED_HOURS;
