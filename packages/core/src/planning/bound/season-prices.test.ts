// The pieces of a season's bound: whatever the prices, they prove; and what is found with them is not far above.
import { describe, expect, it } from '@jest/globals';
import { exactSeason, randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { planSeason } from '../season/plan-season.ts';
import type { SeasonProblem } from '../season/season-problem.ts';
import { lanePricer } from './priced-lane.ts';
import { slotPricer } from './priced-slots.ts';
import { seasonBound } from './season-bound.ts';

const seeds = Array.from({ length: 40 }, (_, i) => i + 1);

/** Light that a lane's best sequence of exposures earns where each goal's second is worth so much beside its light: brute force over slots. */
function bestLane(problem: SeasonProblem, lane: number, net: Float64Array): number {
  const { goals, slotSec, panels, filters } = problem;
  const { slots, rates, odds } = problem.lanes[lane];
  const known = new Map<string, number>();
  const from = (slot: number, last: number): number => {
    const key = `${slot} ${last}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    let best = slot < slots ? from(slot + 1, last) : 0;
    goals.forEach((goal, g) => {
      if (goal.count <= 0) return;
      const changeSec =
        last < 0
          ? 0
          : problem.panelChangeSec[goals[last].panel * panels.length + goal.panel] +
            problem.filterChangeSec[goals[last].filter * filters + goal.filter];
      const start = slot + changeSec / slotSec;
      const length = goal.cycleSec / slotSec;
      if (start + length > slots) return;
      let light = 0;
      for (let s = start; s < start + length; s++) {
        const rate = rates[goal.row * slots + s];
        if (rate <= 0) return;
        light += rate / length;
      }
      const worth = odds * (goal.value * light + net[g] * goal.cycleSec);
      best = Math.max(best, worth + from(start + length, g));
    });
    known.set(key, best);
    return best;
  };
  return from(0, -1);
}

describe('a lane that is priced', () => {
  it('is worth at least what its best exposures are, whatever the prices', () => {
    for (const seed of seeds) {
      const problem = randomSeason(seed, seed % 2 === 0);
      const random = seededRandom(seed);
      const price = lanePricer(problem, 30);
      for (let i = 0; i < 5; i++) {
        const net = Float64Array.from(problem.goals, ({ value, cycleSec }) => ((random() - 0.6) * value) / cycleSec);
        const best = problem.lanes.reduce((sum, _, lane) => sum + bestLane(problem, lane, net), 0);
        expect(price(net).total).toBeGreaterThanOrEqual(best - 1e-9);
      }
    }
  });

  it('is worth nothing where everything costs more than it earns', () => {
    const problem = randomSeason(3);
    const net = Float64Array.from(problem.goals, ({ value, cycleSec }) => (-2 * value) / cycleSec);
    const { total, usage } = lanePricer(problem, 30)(net);
    expect(total).toBe(0);
    expect([...usage].every((used) => used === 0)).toBe(true);
  });

  it('uses more of a goal whose price falls', () => {
    for (const seed of seeds.slice(0, 15)) {
      const problem = randomSeason(seed);
      const price = lanePricer(problem, 30);
      const at = (more: number): number =>
        price(Float64Array.from(problem.goals, ({ value, cycleSec }, g) => (g === 0 ? (more * value) / cycleSec : 0)))
          .usage[0];
      const [dear, usual, cheap] = [at(-1), at(0), at(3)];
      expect(usual).toBeGreaterThanOrEqual(dear - 1e-9);
      expect(cheap).toBeGreaterThanOrEqual(usual - 1e-9);
    }
  });

  it('is at most a little lower on a coarser grid that rounds travel down', () => {
    for (const seed of seeds.slice(0, 15)) {
      const problem = randomSeason(seed);
      const net = new Float64Array(problem.goals.length);
      const [fine, coarse] = [lanePricer(problem, 30)(net).total, lanePricer(problem, 300)(net).total];
      expect(coarse).toBeGreaterThanOrEqual(fine * 0.999 - 1e-9);
    }
  });
});

describe('slots that are priced softly', () => {
  it('come to the hard choice as softness goes', () => {
    for (const seed of seeds.slice(0, 15)) {
      const problem = randomSeason(seed, true);
      const price = slotPricer(problem);
      const net = new Float64Array(problem.goals.length);
      const hard = price(net).total;
      const soft = [1e-3, 1e-4, 1e-6].map((softness) => price(net, softness).total);
      expect(soft[0]).toBeGreaterThanOrEqual(soft[1] - 1e-9);
      expect(soft[1]).toBeGreaterThanOrEqual(soft[2] - 1e-9);
      expect(soft[2]).toBeGreaterThanOrEqual(hard - 1e-9);
      expect(soft[2]).toBeCloseTo(hard, 1);
    }
  });
});

describe('the bound of a season', () => {
  it('only falls with more rounds, and stays over the optimum', () => {
    for (const seed of seeds.slice(0, 12)) {
      const problem = randomSeason(seed, seed % 3 === 0);
      const optimum = exactSeason(problem);
      const { value } = planSeason(problem, { iterations: 2000, seed: 1 });
      const at = (rounds: number): number =>
        seasonBound(problem, { rounds, slotRounds: 20, coarseRounds: 0, reached: value }).bound;
      const [few, some, many] = [at(5), at(40), at(160)];
      expect(few).toBeGreaterThanOrEqual(some - 1e-9);
      expect(some).toBeGreaterThanOrEqual(many - 1e-9);
      expect(many).toBeGreaterThanOrEqual(optimum - 1e-6);
    }
  });

  it('is not far above the optimum of most small seasons', () => {
    const shares = seeds.slice(0, 20).flatMap((seed) => {
      const problem = randomSeason(seed);
      const optimum = exactSeason(problem);
      if (optimum <= 0) return [];
      return [optimum / seasonBound(problem, { rounds: 200, slotRounds: 40, coarseRounds: 0, reached: optimum }).bound];
    });
    const mean = shares.reduce((sum, share) => sum + share, 0) / shares.length;
    expect(mean).toBeGreaterThan(0.8);
  });
});
