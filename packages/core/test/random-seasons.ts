// Small seasons from a seed, and their optimum by plain enumeration: shares nothing with the planner but the problem's shape.
import type { SeasonGoal, SeasonProblem } from '../src/planning/season/season-problem.ts';
import type { Random } from '../src/random.ts';
import { seededRandom } from '../src/random.ts';

const SLOT_SEC = 300;
const int = (random: Random, low: number, high: number): number => low + Math.floor(random() * (high - low + 1));

/** Targets rise, set or stay as they are. Lengths and changes are whole slots, so that some optimum has every start on a slot's edge.
 * @param isOdd nights have odds below 1 */
export function randomSeason(seed: number, isOdd = false): SeasonProblem {
  const random = seededRandom(seed);
  const panelCount = int(random, 2, 3);
  const projects = Array.from({ length: int(random, 1, 2) }, () => ({ bonus: int(random, 0, 8) / 2 }));
  const panels = Array.from({ length: panelCount }, (_, p) => ({
    project: Math.min(p, projects.length - 1),
    balance: random() < 0.6 ? int(random, 1, 10) / 2 : 0,
  }));
  const goals = panels.flatMap((_, panel) =>
    Array.from({ length: int(random, 1, 2) }, (_unused, filter): SeasonGoal => {
      const wanted = int(random, 1, 4);
      const done = int(random, 0, wanted - 1);
      const cycleSec = SLOT_SEC * int(random, 1, 2);
      return { panel, filter, row: panel * 2 + filter, exposureSec: cycleSec, cycleSec, wanted, done, count: wanted - done, value: int(random, 1, 10) / 10 }; // prettier-ignore
    }),
  );
  const lanes = Array.from({ length: int(random, 2, 3) }, (_, night) => {
    const slots = int(random, 4, 8);
    const rates = new Float32Array(panelCount * 2 * slots);
    for (let row = 0; row < panelCount * 2; row++) {
      const from = int(random, 0, slots - 2);
      const [last, first, rise] = [
        Math.min(slots, from + int(random, 2, 7)),
        int(random, 1, 8) / 8,
        int(random, -1, 1) / 16,
      ];
      for (let slot = from; slot < last; slot++)
        rates[row * slots + slot] = Math.max(0.125, Math.min(1, first + rise * (slot - from)));
    }
    return { night, rig: 0, slots, rates, odds: isOdd ? int(random, 1, 4) / 4 : 1 };
  });
  const travelSlots = int(random, 0, 2);
  return {
    slotSec: SLOT_SEC,
    goals,
    panels,
    projects,
    lanes,
    panelChangeSec: Float64Array.from({ length: panelCount ** 2 }, (_, i) =>
      i % panelCount === Math.floor(i / panelCount) ? 0 : travelSlots * SLOT_SEC,
    ),
    filterChangeSec: Float64Array.from([0, ...[1, 1].map(() => int(random, 0, 1) * SLOT_SEC), 0]),
    filters: 2,
  };
}

/** The best value of a season: every night's every sequence of exposures on the slots' edges, night after night, for each vector of counts. */
export function exactSeason(problem: SeasonProblem): number {
  const { goals, lanes } = problem;
  let reached = new Map<string, number>([[goals.map(() => 0).join(), 0]]);
  for (let lane = 0; lane < lanes.length; lane++) {
    const next = new Map<string, number>();
    for (const [counts, light] of reached)
      for (const [after, gained] of nightsFrom(problem, lane, counts.split(',').map(Number)))
        if ((next.get(after) ?? -1) < light + gained) next.set(after, light + gained);
    reached = next;
  }
  return Math.max(...[...reached].map(([counts, light]) => light + collective(problem, counts.split(',').map(Number))));
}

function nightsFrom(problem: SeasonProblem, lane: number, before: readonly number[]): Map<string, number> {
  const { goals, slotSec, panels, filters } = problem;
  const { slots, rates, odds } = problem.lanes[lane];
  const best = new Map<string, number>([[before.join(), 0]]);
  const seen = new Map<string, number>();
  const walk = (
    slot: number,
    last: number,
    counts: readonly number[],
    placed: readonly number[],
    light: number,
  ): void => {
    const key = `${slot}|${last}|${counts.join()}`;
    if ((seen.get(key) ?? -1) >= light) return;
    seen.set(key, light);
    if ((best.get(counts.join()) ?? -1) < light) best.set(counts.join(), light);
    goals.forEach((goal, g) => {
      if (counts[g] + odds > goal.count + 1e-9 || placed[g] + 1 > goal.count) return;
      const changeSec =
        last < 0
          ? 0
          : problem.panelChangeSec[goals[last].panel * panels.length + goal.panel] +
            problem.filterChangeSec[goals[last].filter * filters + goal.filter];
      const length = goal.cycleSec / slotSec;
      for (let start = slot + changeSec / slotSec; start + length <= slots; start++) {
        let sum = 0;
        let isOpen = true;
        for (let s = start; s < start + length; s++) {
          sum += rates[goal.row * slots + s] / length;
          if (rates[goal.row * slots + s] <= 0) isOpen = false;
        }
        if (!isOpen) continue;
        const add = (list: readonly number[], by: number): number[] => list.map((n, i) => (i === g ? n + by : n));
        walk(start + length, g, add(counts, odds), add(placed, 1), light + odds * goal.value * sum);
      }
    });
  };
  walk(0, -1, before, goals.map(() => 0), 0); // prettier-ignore
  return best;
}

function collective({ goals, panels, projects, lanes }: SeasonProblem, counts: readonly number[]): number {
  const least = (extra: readonly number[]): number[] =>
    panels.map((_, p) =>
      Math.min(1, ...goals.flatMap(({ panel, done, wanted }, g) => (panel === p ? [(done + extra[g]) / wanted] : []))),
    );
  const [before, after] = [least(goals.map(() => 0)), least(counts)];
  const allowed = lanes.some(({ odds }) => odds < 1) ? 1 - 1e-6 : 1e-6;
  const isWhole = (placed: readonly number[], project: number): boolean =>
    goals.every(({ panel, count }, g) => panels[panel].project !== project || count - placed[g] <= allowed);
  const none = goals.map(() => 0);
  return (
    panels.reduce((sum, { balance }, p) => sum + balance * (after[p] - before[p]), 0) +
    projects.reduce((sum, { bonus }, r) => sum + (isWhole(counts, r) && !isWhole(none, r) ? bonus : 0), 0)
  );
}
