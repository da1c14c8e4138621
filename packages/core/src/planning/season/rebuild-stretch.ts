// A stretch of a lane emptied and filled by a greedy walk: stay after stay, each the one worth most a second among some panels drawn.
import { pickBelow } from '../../random.ts';
import type { SeasonSearch } from './season-search.ts';

const DRAWN = 24;
const MOST_STAYS = 40;
const MOST_IDLE_STEPS = 150;

/** @param noise spread of the factor on each panel's worth; 0 takes the best drawn
 * @returns whether the lane changed */
export function rebuildStretch(
  search: SeasonSearch,
  lane: number,
  fromSec: number,
  toSec: number,
  noise: number,
): boolean {
  const { state, next, tables, random } = search;
  const plan = state.lanes[lane];
  let first = 0;
  while (first < plan.length && plan.startSec[first] < fromSec) first += 1;
  let end = first;
  while (end < plan.length && plan.startSec[end] < toSec) end += 1;
  next.append(plan, 0, first);
  search.free(lane, first, end);
  let atSec = first > 0 ? plan.endSec[first - 1] : fromSec;
  let panel = first > 0 ? tables.panelOf[plan.goal[first - 1]] : -1;
  const seen: number[] = [];
  for (let stay = 0, idle = 0; stay < MOST_STAYS && atSec < toSec && idle < MOST_IDLE_STEPS;) {
    const chosen = bestDrawn(search, { lane, atSec, panel, noise, seen });
    if (chosen < 0) {
      atSec += tables.slotSec;
      idle += 1;
      continue;
    }
    const slewSec = panel < 0 ? 0 : tables.panelChangeSec[panel * tables.panels + chosen];
    const drawnSec = (10 + 210 * random() ** 1.3) * 60;
    const lengthSec = Math.min(toSec - atSec - slewSec, drawnSec);
    const usedSec = lengthSec > 0 ? search.fill(lane, chosen, atSec + slewSec, lengthSec) : 0;
    seen.push(chosen);
    if (usedSec > 0) {
      atSec += slewSec + usedSec;
      panel = chosen;
      stay += 1;
    } else {
      atSec += tables.slotSec;
      idle += 1;
    }
  }
  next.append(plan, end, plan.length);
  state.change(lane, next);
  return true;
}

interface Moment {
  readonly lane: number;
  readonly atSec: number;
  readonly panel: number;
  readonly noise: number;
  /** Panels that had a stay already. */
  readonly seen: readonly number[];
}

function bestDrawn(search: SeasonSearch, { lane, atSec, panel, noise, seen }: Moment): number {
  const { tables, random } = search;
  const all = tables.panels <= DRAWN;
  let [best, bestScore] = [-1, 0];
  for (let draw = 0; draw < Math.min(DRAWN, tables.panels); draw++) {
    const candidate = all ? draw : pickBelow(random, tables.panels);
    if (candidate === panel || seen.includes(candidate)) continue;
    const score = search.score(lane, candidate, atSec) * (1 + noise * (2 * random() - 1));
    if (score > bestScore) [best, bestScore] = [candidate, score];
  }
  return best;
}
