// Shares held against seasons lived through under drawn weather: equal demand, three times the demand, a member who joins late, a project split in two. Twenty weathers of sixty nights with --long.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../bench/instances.ts';
import type { Lived } from '../../test/fair-life.ts';
import { liveShared } from '../../test/fair-life.ts';
import type { NamedSeason } from '../planning/season/season-of-nights.ts';
import { seasonOfNights } from '../planning/season/season-of-nights.ts';
import { changeBetweenSec } from '../planning/season/season-problem.ts';
import { seededRandom } from '../random.ts';
import { nightDatePlus, observingNight } from '../time/nights.ts';
import { drawClearNights } from '../weather/clear-nights.ts';

const IS_LONG = process.env.MERIDIEM_LONG === '1';
const NIGHTS = IS_LONG ? 60 : 30;
const WEATHERS = IS_LONG ? 20 : 2;
const ITERATIONS = 12_000;
const ODDS = 0.55;
const JOINS_ON = IS_LONG ? 20 : 10;

const one = nightInstance({ seed: 8, goals: IS_LONG ? 24 : 16, night: 40 });
/** The same work for each name: 'A1', 'A2' belong to A. More is wanted than the nights hold. */
function seasonFor(names: readonly string[]): NamedSeason {
  const own = names.map((name) => ({
    projects: one.projects.map((project) => ({ ...project, id: `${project.id} ${name}`, weight: 1 })),
    panels: one.panels.map((panel) => ({ ...panel, id: `${panel.id} ${name}`, projectId: `${panel.projectId} ${name}` })), // prettier-ignore
    goals: one.goals.map((goal) => ({
      ...goal,
      id: `${goal.id} ${name}`,
      panelId: `${goal.panelId} ${name}`,
      toPlan: 4 * goal.toPlan,
      wanted: goal.wanted === null ? null : goal.wanted + 3 * goal.toPlan,
    })),
  }));
  const request = {
    ...one,
    projects: own.flatMap(({ projects }) => projects),
    panels: own.flatMap(({ panels }) => panels),
    goals: own.flatMap(({ goals }) => goals),
  };
  const nights = Array.from({ length: NIGHTS }, (_, i) => ({
    night: observingNight(nightDatePlus(one.night.nightDate, i - NIGHTS / 3), one.timeZone),
    odds: ODDS,
  }));
  return seasonOfNights({ rigs: [{ rigId: 'rig', request, acceptance: {} }], nights });
}

type SharesOn = (night: number) => Readonly<Record<string, number>>;
function lives({ problem, projectIds }: NamedSeason, sharesOn: SharesOn, fairness: number): Lived[] {
  const memberOf = projectIds.map((id) => id.at(-2)!);
  return Array.from({ length: WEATHERS }, (_, weather) => {
    const clear = drawClearNights(new Array<number>(NIGHTS).fill(ODDS), 0.35, seededRandom(50 + weather));
    return liveShared({ problem, memberOf, sharesOn, clear, fairness, iterations: ITERATIONS });
  });
}
const mean = (numbers: readonly number[]): number => numbers.reduce((sum, x) => sum + x, 0) / numbers.length;
/** Charged over entitled hours of a member, all weathers together. */
const ratio = (all: readonly Lived[], name: string): number =>
  mean(all.map(({ members }) => members[name].charged)) / mean(all.map(({ members }) => members[name].entitled));
const ratios = (all: readonly Lived[]): number[] => Object.keys(all[0].members).map((name) => ratio(all, name));
const spread = (all: readonly Lived[]): number => Math.max(...ratios(all)) - Math.min(...ratios(all));
/** In three short weathers chance is larger. */
const WITHIN = IS_LONG ? 0.05 : 0.12;

describe('members with equal shares and equal demand', () => {
  const season = seasonFor(['A1', 'B1', 'C1']);
  const sharesOn: SharesOn = () => ({ A: 1, B: 1, C: 1 });
  const fair = lives(season, sharesOn, 1);

  it('are entitled to the same, and charged the same', () => {
    const entitled = Object.values(fair[0].members).map((member) => member.entitled);
    expect(Math.max(...entitled) - Math.min(...entitled)).toBeLessThan(0.03 * mean(entitled));
    const charged = Object.keys(fair[0].members).map((name) => mean(fair.map(({ members }) => members[name].charged)));
    expect((Math.max(...charged) - Math.min(...charged)) / mean(charged)).toBeLessThan(2 * WITHIN);
  });

  it('lose next to nothing of the value by it', () => {
    const free = lives(season, sharesOn, 0);
    const value = (all: readonly Lived[]): number => mean(all.map((lived) => lived.value));
    expect(value(fair)).toBeGreaterThan(0.97 * value(free));
    expect(value(fair)).toBeLessThan(1.02 * value(free));
  });

  it('leave no stretch of a night idle in which somebody has work throughout', () => {
    const { problem } = season;
    for (const { plan } of fair) {
      const left = problem.goals.map(({ count }) => count);
      plan.forEach((runs, l) => {
        const { slots, rates } = problem.lanes[l];
        for (const { goal, count } of runs) left[goal] -= count;
        const stays = runs.map(({ goal, count, startSec }, i) => ({
          fromSec: startSec - (i > 0 ? changeBetweenSec(problem, runs[i - 1].goal, goal) : 0),
          toSec: startSec + count * problem.goals[goal].cycleSec,
        }));
        if (stays.length === 0) return;
        const edges = [0, ...stays.flatMap(({ fromSec, toSec }) => [fromSec, toSec]), slots * problem.slotSec];
        for (let i = 0; i < edges.length; i += 2) {
          const [from, to] = [Math.ceil(edges[i] / problem.slotSec), Math.floor(edges[i + 1] / problem.slotSec)];
          if ((to - from) * problem.slotSec < 40 * 60) continue;
          const eligible = problem.goals.filter(({ row }, g) => left[g] > 0 && rates.subarray(row * slots + from, row * slots + to).every((rate) => rate > 0)); // prettier-ignore
          expect(eligible).toEqual([]);
        }
      });
    }
  });
});

describe('a member who asks for three times as much', () => {
  const season = seasonFor(['A1', 'A2', 'A3', 'B1']);
  const sharesOn: SharesOn = () => ({ A: 1, B: 1 });

  it('takes far more than half where fairness counts nothing, and half where it counts fully', () => {
    const [free, half, fair] = [0, 0.5, 1].map((fairness) => lives(season, sharesOn, fairness));
    expect(spread(free)).toBeGreaterThan(0.4);
    expect(spread(fair)).toBeLessThan(2 * WITHIN);
    // Who is charged least of what they are entitled to loses nothing as fairness grows.
    const least = [free, half, fair].map((all) => Math.min(...ratios(all)));
    expect(least[1]).toBeGreaterThan(least[0]);
    expect(least[2]).toBeGreaterThan(least[1] - 0.5 * WITHIN);
  });
});

describe('a member who joins late', () => {
  const season = seasonFor(['A1', 'B1', 'C1']);
  const sharesOn: SharesOn = (night) => ({ A: 1, B: 1, ...(night < JOINS_ON ? {} : { C: 1 }) });

  it('gets the share of the nights since, neither more nor less; without fairness, what their fresh work attracts', () => {
    const [free, fair] = [0, 1].map((fairness) => lives(season, sharesOn, fairness));
    expect(ratio(free, 'C')).toBeGreaterThan(1.25);
    expect(Math.abs(ratio(fair, 'C') - 1)).toBeLessThan(2 * WITHIN);
    for (const { members } of fair) expect(members.C.entitled).toBeLessThan(members.A.entitled);
  });
});

describe('a project split in two', () => {
  it('gains its member next to nothing', () => {
    const season = seasonFor(['A1', 'B1']);
    const { problem, projectIds } = season;
    const sharesOn: SharesOn = () => ({ A: 1, B: 1 });
    // Each panel of A becomes a project of its own, its bonus by its hours.
    const hoursOf = (panel: number): number => problem.goals.reduce((sum, goal) => sum + (goal.panel === panel ? goal.wanted * goal.exposureSec : 0), 0); // prettier-ignore
    const parts = problem.panels.map(({ project }, panel) => ({ project, panel, own: hoursOf(panel), all: problem.panels.reduce((sum, other, p) => sum + (other.project === project ? hoursOf(p) : 0), 0) })); // prettier-ignore
    const split: NamedSeason = {
      ...season,
      projectIds: parts.map(({ project }) => projectIds[project]),
      problem: {
        ...problem,
        panels: problem.panels.map((panel, project) => ({ ...panel, project })),
        projects: parts.map(({ project, own, all }) => ({ bonus: (problem.projects[project].bonus * own) / all })),
      },
    };
    const charged = (all: readonly Lived[]): number => mean(all.map(({ members }) => members.A.charged));
    const whole = charged(lives(season, sharesOn, 1));
    expect(charged(lives(split, sharesOn, 1)) / whole - 1).toBeLessThan(IS_LONG ? 0.02 : 0.1);
  });
});
