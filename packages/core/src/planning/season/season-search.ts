// What the moves of a season share: the state, random numbers, room for the lanes they write, and which panel is worth a look.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import { fillStay } from './fill-stay.ts';
import type { LanePlan } from './lane-plan.ts';
import { BlockList, MOST_BLOCKS } from './lane-plan.ts';
import type { SeasonState } from './season-state.ts';
import type { SeasonTables } from './season-tables.ts';

/** Panels drawn before a look for one that is open is given up. */
const MOST_DRAWS = 12;

export class SeasonSearch {
  readonly tables: SeasonTables;
  readonly next = new BlockList();
  readonly other = new BlockList();
  /** First blocks of the stays of the lane that was asked last; one more entry for its end. */
  readonly stayFrom = new Int32Array(MOST_BLOCKS + 1);
  /** Exposures that the move under way takes away, by goal. */
  readonly freed: Float64Array;
  readonly #freedGoals: number[] = [];
  /** Seconds of travel to leave where the next panel isn't known yet. */
  readonly travelSec: number;

  constructor(
    readonly state: SeasonState,
    readonly random: Random,
  ) {
    this.tables = state.tables;
    this.freed = new Float64Array(this.tables.goals);
    this.travelSec = meanTravelSec(this.tables);
  }

  lane(): number {
    return pickBelow(this.random, this.state.lanes.length);
  }

  /** Finds the stays of a lane; how many there are. */
  stays(lane: LanePlan): number {
    const { panelOf } = this.tables;
    let stays = 0;
    let panel = -1;
    for (let b = 0; b < lane.length; b++) {
      if (panelOf[lane.goal[b]] === panel) continue;
      panel = panelOf[lane.goal[b]];
      this.stayFrom[stays++] = b;
    }
    this.stayFrom[stays] = lane.length;
    return stays;
  }

  /** Counts blocks as taken away by this move. */
  free(lane: number, from: number, to: number): void {
    const plan = this.state.lanes[lane];
    const { odds } = this.tables.lanes[lane];
    for (let b = from; b < to; b++) {
      this.freed[plan.goal[b]] += plan.count[b] * odds;
      this.#freedGoals.push(plan.goal[b]);
    }
  }

  forgetFreed(): void {
    for (const goal of this.#freedGoals) this.freed[goal] = 0;
    this.#freedGoals.length = 0;
  }

  /** Appends a stay; the seconds it uses. */
  fill(
    lane: number,
    panel: number,
    startSec: number,
    lengthSec: number,
    out: BlockList = this.next,
    notBeforeSec = 0,
  ): number {
    return fillStay(this.state, { lane, panel, startSec, lengthSec, notBeforeSec }, this.freed, this.random, out);
  }

  /** Worth of a second on a panel at a moment of a lane: its best light, and what balance and completion might pay; 0 where nothing can be exposed. */
  score(lane: number, panel: number, atSec: number): number {
    const { slots, rates, odds } = this.tables.lanes[lane];
    const { goalsFrom, rowOf, lightPerSec, count, slotSec, projectOf, balancePerSec, bonusPerSec } = this.tables;
    const slot = Math.min(slots - 1, Math.floor(atSec / slotSec));
    let light = 0;
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++) {
      if (count[goal] - this.state.used[goal] + this.freed[goal] < odds - 1e-6) continue;
      const perSec = lightPerSec[goal] * rates[rowOf[goal] * slots + slot];
      if (perSec > light) light = perSec;
    }
    if (light === 0) return 0;
    const project = projectOf[panel];
    const atFirst = this.state.leftAtFirstSec[project];
    const progress = atFirst > 0 ? 1 - this.state.leftSec[project] / atFirst : 1;
    return odds * (light + balancePerSec[panel] + bonusPerSec[project] * (0.3 + 1.4 * progress));
  }

  /** A panel that is open at a moment, the better of two; −1 where none is found. */
  panelAt(lane: number, atSec: number, looks = 2): number {
    let [best, bestScore, found] = [-1, 0, 0];
    for (let draw = 0; draw < MOST_DRAWS && found < looks; draw++) {
      const panel = pickBelow(this.random, this.tables.panels);
      const score = this.score(lane, panel, atSec);
      if (score <= 0) continue;
      found += 1;
      if (score > bestScore) [best, bestScore] = [panel, score];
    }
    return best;
  }
}

function meanTravelSec({ panelChangeSec, panels }: SeasonTables): number {
  if (panels < 2) return 0;
  let sum = 0;
  for (let i = 0; i < panelChangeSec.length; i++) sum += panelChangeSec[i];
  return sum / (panels * (panels - 1));
}
