// Nights that may end at any time: ten, with every cut enumerated by itself.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { seededRandom } from '../../random.ts';
import { checkNight } from '../checker/check-night.ts';
import { nightProblem } from '../night/night-problem.ts';
import { surveyNight } from '../night/survey.ts';
import { Collective, goalRecords, meanRate } from '../objective.ts';
import type { NightProblem, Placement } from '../problem.ts';
import { cutsOf, endingAt, safetyPrice } from './cuts.ts';
import { HeldNight } from './held.ts';

const HAZARD = 0.2;
const OPTIONS = { seed: 1, iterations: 1200 };
const problemOf = (seed: number, goals = 24): NightProblem => {
  const request = nightInstance({ seed, goals });
  return { ...nightProblem(request, surveyNight(request)!), endHazardPerHour: HAZARD };
};

/** What is in the books if the night ends at a moment, from nothing but the exposures that are whole by then. */
function valueIfEnded(problem: NightProblem, placements: readonly Placement[], endSec: number): number {
  const goals = goalRecords(problem);
  const placed = new Int32Array(goals.length);
  let light = 0;
  for (const { goal, startsSec } of placements)
    for (const startSec of startsSec)
      if (startSec + goals[goal].exposureSec <= endSec) {
        placed[goal] += 1;
        light += goals[goal].value * meanRate(goals[goal], startSec);
      }
  return light + new Collective(problem).value(placed);
}

/** Every moment at which a cut makes a difference, each with the chance that the night ends before the next. */
function enumerated(problem: NightProblem, placements: readonly Placement[]): number {
  const ends = placements.flatMap(({ goal, startsSec }) => startsSec.map((startSec) => startSec + problem.goals[goal].exposureSec)).sort((a, b) => a - b); // prettier-ignore
  const lasting = (sec: number): number => Math.exp((-HAZARD * sec) / 3600);
  return [0, ...ends].reduce((sum, from, i, all) => {
    const chance = lasting(from) - (i + 1 < all.length ? lasting(all[i + 1]) : 0);
    return sum + chance * valueIfEnded(problem, placements, from);
  }, 0);
}

const NIGHTS = Array.from({ length: 10 }, (_, i) => ({ seed: i + 1 }));
const strictlySafer: number[] = [];

describe('the safe order', () => {
  it.each(NIGHTS)('of night $seed is expected to hold at least what the order best without cuts holds', ({ seed }) => {
    const problem = problemOf(seed);
    const { safe, uncut, safeExpected, uncutExpected } = safetyPrice(problem, OPTIONS);
    const [bySafe, byUncut] = [enumerated(problem, safe.placements), enumerated(problem, uncut.placements)];
    expect(bySafe).toBeGreaterThanOrEqual(byUncut - 1e-9);
    expect(safeExpected).toBeCloseTo(bySafe, 6);
    expect(uncutExpected).toBeCloseTo(byUncut, 6);
    expect(safe.value).toBeCloseTo(valueIfEnded(problem, safe.placements, Infinity), 6);
    expect(checkNight(problem, safe.placements).violations).toEqual([]);
    if (bySafe > byUncut * 1.005) strictlySafer.push(seed);
  });

  it('is another one than the best without cuts on most nights', () => {
    expect(strictlySafer.length).toBeGreaterThanOrEqual(5);
  });

  it('is the order best without cuts where nothing ends the night', () => {
    const { safe, uncut } = safetyPrice({ ...problemOf(3), endHazardPerHour: 0 }, OPTIONS);
    expect(safe).toBe(uncut);
  });

  it('is the same for the same seed', () => {
    const of = (): string => JSON.stringify(safetyPrice(problemOf(4), OPTIONS).safe);
    expect(of()).toBe(of());
  });
});

describe('a night, cut', () => {
  const problem = problemOf(2);
  const { safe, uncut } = safetyPrice(problem, OPTIONS);
  const endsSec = Array.from({ length: 12 }, (_, i) => (problem.lengthSec * (i + 1)) / 12);
  const cuts = cutsOf(problem, safe, endsSec, { options: OPTIONS, others: [uncut] });

  it('holds what its exposures so far are worth, and no more than is possible until then', () => {
    for (const { endSec, worth, bestWorth } of cuts) {
      expect(worth).toBeCloseTo(valueIfEnded(problem, safe.placements, endSec), 6);
      expect(bestWorth).toBeGreaterThanOrEqual(worth);
      expect(bestWorth).toBeGreaterThanOrEqual(valueIfEnded(problem, uncut.placements, endSec) - 1e-9);
    }
    expect(cuts.at(-1)!.counts.reduce((a, b) => a + b, 0)).toBe(
      safe.placements.flatMap(({ startsSec }) => startsSec).length,
    );
  });

  it('is never beaten by a random plan of the night known to end then', () => {
    const random = seededRandom(5);
    for (const { endSec, bestWorth } of cuts.slice(3)) {
      const short = endingAt(problem, endSec);
      const goal = short.goals.findIndex(({ windows, count }) => count > 0 && windows.length > 0 && random() < 0.5);
      if (goal < 0) continue;
      const { fromSec, toSec } = short.goals[goal].windows[0];
      const first = Math.max(fromSec, short.panelChangeSec[0][short.goals[goal].panel]);
      if (first + short.goals[goal].exposureSec > toSec) continue;
      expect(bestWorth).toBeGreaterThanOrEqual(valueIfEnded(problem, [{ goal, startsSec: [first] }], endSec) - 1e-9);
    }
  });

  it('adds up: the gains of all exposures are the value of the whole', () => {
    const gains = new HeldNight(problem).gains(safe.placements);
    expect(gains.reduce((sum, { worth }) => sum + worth, 0)).toBeCloseTo(safe.value, 6);
    expect(gains.map(({ endSec }) => endSec)).toEqual(gains.map(({ endSec }) => endSec).toSorted((a, b) => a - b));
  });
});
