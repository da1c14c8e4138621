import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { seededRandom } from '../../random.ts';
import type { Random } from '../../random.ts';
import { bundled, bundlesOf, moved } from './block-moves.ts';
import { checkNight } from '../checker/check-night.ts';
import type { Block, TimedBlock } from './decoder.ts';
import { Decoder } from './decoder.ts';
import { nightProblem } from './night-problem.ts';
import { finishableProjects, finished, momentFor, putIn, servedInTime } from './place-in-time.ts';
import { StretchBuilder } from './rebuild-stretch.ts';
import { EvenStays, slotsFilled, wholeMoved, withStay } from './stay-moves.ts';
import { surveyNight } from './survey.ts';
import { walkedBlocks } from './walk.ts';
import { firstDuals } from '../bound/duals.ts';

const problem = (() => {
  const request = nightInstance({ seed: 3, goals: 24 });
  return nightProblem(request, surveyNight(request)!);
})();
const decoder = new Decoder(problem);
const movable = problem.goals.flatMap((goal, g) => (goal.count > 0 && goal.windows.length > 0 ? [g] : []));
const stays = new EvenStays(decoder, movable);
const builder = new StretchBuilder(decoder, movable);
const bundles = bundlesOf(decoder, movable);
const finishable = finishableProjects(decoder);
const walked = (first: readonly number[] = []): Block[] =>
  walkedBlocks(decoder, { terms: firstDuals(problem).terms, first });
const timedOf = (blocks: readonly Block[]): TimedBlock[] => {
  decoder.valueOf(blocks);
  return decoder.timed(blocks);
};

type Move = (timed: readonly TimedBlock[], random: Random) => Block[];
const MOVES: Readonly<Record<string, Move>> = {
  'of single blocks': (timed, random) => moved(decoder, timed, movable, random),
  'of bundles': (timed, random) => bundled(decoder, timed, bundles, random),
  'that fill a stay': (timed, random) => withStay(decoder, timed, stays, random),
  'of whole stays': (timed, random) => wholeMoved(decoder, timed, stays, random),
  'that fill all stays of a panel': (timed, random) => slotsFilled(decoder, timed, stays, random),
  'that rebuild a stretch': (timed, random) => builder.rebuilt(timed, random),
  'that put in a run': (timed, random) => servedInTime(decoder, timed, movable, random),
  'that finish a project': (timed, random) => finished(decoder, timed, finishable, random),
};

describe('moves', () => {
  it('that rebuild a stretch leave the night before and after it as it stands, and fill an empty one', () => {
    const random = seededRandom(5);
    const timed = timedOf(walked());
    const isSame = (a: Block | undefined, b: TimedBlock): boolean => a?.goal === b.goal && a.count === b.placed;
    for (let i = 0; i < 200; i++) {
      const blocks = builder.rebuilt(timed, random);
      const first = timed.findIndex((block, k) => !isSame(blocks[k], block));
      const last = timed.findLastIndex((block, k) => !isSame(blocks[k + blocks.length - timed.length], block));
      if (first >= 0) expect(timed[last].startSec - timed[first].startSec).toBeLessThanOrEqual(5.5 * 3600);
    }
    const values = Array.from({ length: 40 }, () => decoder.valueOf(builder.rebuilt([], random)));
    // Half of them draw a stretch in which something is up.
    expect(values.filter((value) => value > 0.05 * decoder.valueOf(walked())).length).toBeGreaterThan(15);
  });

  it.each(Object.entries(MOVES))('%s lead from night to night, each one possible', (_, move) => {
    const random = seededRandom(11);
    let timed = timedOf(walked());
    const nights = new Set<string>();
    for (let i = 0; i < 150; i++) {
      const blocks = move(timed, random);
      for (const { goal, count, earliestSec } of blocks) {
        expect(movable).toContain(goal);
        expect(Number.isInteger(count) && count > 0).toBe(true);
        expect(earliestSec).toBeGreaterThanOrEqual(0);
      }
      if (i % 10 === 0) {
        const { placements, value } = decoder.solutionOf(blocks);
        const checked = checkNight(problem, placements);
        expect(checked.violations).toEqual([]);
        expect(checked.value).toBeCloseTo(value, 6);
      }
      const next = timedOf(blocks);
      nights.add(JSON.stringify(next));
      timed = next.length > 0 ? next : timedOf(walked());
    }
    // A move that changed nothing would pass all of the above.
    expect(nights.size).toBeGreaterThan(20);
  });
});

describe('an even stay', () => {
  it('brings the filters of a panel to one fraction, as far as they have exposures left, in about its time', () => {
    const random = seededRandom(5);
    for (const panel of stays.panels)
      for (const lengthSec of [1800, 5400, 12_000]) {
        const blocks = stays.filled(panel, lengthSec, random);
        const sec = blocks.reduce((sum, { goal, count }) => sum + count * problem.goals[goal].cycleSec, 0);
        const own = movable.filter((g) => problem.goals[g].panel === panel);
        const longest = Math.max(...own.map((g) => problem.goals[g].cycleSec));
        expect(sec).toBeLessThanOrEqual(lengthSec + own.length * longest);
        const members = problem.balances.flatMap(({ members: all }) => all).filter(({ goal }) => own.includes(goal));
        const open = members.filter(({ goal }) => countIn(blocks, goal) < problem.goals[goal].count);
        const fractions = open.map(({ goal, done, wanted }) => (done + countIn(blocks, goal)) / wanted);
        const step = Math.max(...members.map(({ wanted }) => 1 / wanted));
        for (const { goal, done, wanted } of open)
          if (countIn(blocks, goal) > 0)
            expect((done + countIn(blocks, goal)) / wanted).toBeLessThanOrEqual(Math.min(...fractions) + 1.5 * step);
      }
  });
});

const countIn = (blocks: readonly Block[], goal: number): number =>
  blocks.reduce((sum, block) => sum + (block.goal === goal ? block.count : 0), 0);

describe('a run put in', () => {
  it('stands at about its time, and what is protected keeps its exposures', () => {
    const random = seededRandom(8);
    const timed = timedOf(walked());
    let tried = 0;
    const before = new Map(timed.map(({ goal }) => [goal, countIn(timed, goal)]));
    for (let i = 0; i < 60; i++) {
      const goal = movable[Math.floor(random() * movable.length)];
      const atSec = momentFor(decoder, goal, 2, random);
      if (atSec === null || before.has(goal)) continue;
      tried += 1;
      const kept = timed[Math.floor(random() * timed.length)].goal;
      const blocks = putIn(decoder, timed, [{ goal, count: 2, atSec }], (other) => other === kept);
      expect(countIn(blocks, goal)).toBe(2);
      expect(countIn(blocks, kept)).toBe(before.get(kept));
      const run = timedOf(blocks).find((block) => block.goal === goal);
      if (run) expect(run.startSec).toBeGreaterThan(atSec - 1800);
    }
    expect(tried).toBeGreaterThan(10);
  });

  it('is given a moment from which it fits into one window', () => {
    const random = seededRandom(9);
    for (const goal of movable) {
      const { windows, cycleSec } = problem.goals[goal];
      const atSec = momentFor(decoder, goal, 3, random);
      if (atSec === null) {
        expect(windows.every(({ fromSec, toSec }) => toSec - fromSec <= 3 * cycleSec)).toBe(true);
        continue;
      }
      const room = windows.map(({ fromSec, toSec }) => (atSec >= fromSec && atSec < toSec ? toSec - atSec : 0));
      expect(Math.max(...room)).toBeGreaterThan(0.9 * 3 * cycleSec - 1);
    }
  });
});

describe('a walk', () => {
  it('finishes first what it is told to, where a night can hold it', () => {
    const [own] = finishable.filter((goals) => goals.length > 1).sort((a, b) => secOf(a) - secOf(b));
    const placed = timedOf(walked(own));
    for (const goal of own) expect(countPlaced(placed, goal)).toBe(problem.goals[goal].count);
  });

  it('leaves no goal waiting beside an idle rig', () => {
    const timed = timedOf(walked());
    const lastSec = Math.max(...timed.map(({ endSec }) => endSec));
    const left = movable.filter((goal) => countPlaced(timed, goal) < problem.goals[goal].count);
    for (const goal of left) {
      const { windows, exposureSec } = problem.goals[goal];
      expect(windows[windows.length - 1].toSec - exposureSec - lastSec).toBeLessThan(600);
    }
  });
});

const secOf = (goals: readonly number[]): number =>
  goals.reduce((sum, g) => sum + problem.goals[g].count * problem.goals[g].cycleSec, 0);
const countPlaced = (timed: readonly TimedBlock[], goal: number): number =>
  timed.reduce((sum, block) => sum + (block.goal === goal ? block.placed : 0), 0);
