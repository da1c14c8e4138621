// A season lived through night by night: some way of planning, weather that is drawn, exposures that are rejected; what came of it, counted by the problem's own formula.
import type { Random, SeasonPlan, SeasonProblem } from '@meridiem/core';

export interface LifeWorld {
  /** By night. */
  readonly clear: ArrayLike<number>;
  readonly random: Random;
  /** Share of exposures that are accepted. */
  readonly acceptance: number;
  /** Odds of a clear night, and how far one night's weather goes on into the next, as planners assume them. */
  readonly odds: number;
  readonly persistence: number;
}

/** Plans what is left on the evening of a clear night.
 * @param rest lanes from tonight on (tonight's odds are 1), counts as they stand
 * @param before the plan of the last evening, lanes of the same nights
 * @returns runs for each lane of `rest` */
export type Evening = (rest: SeasonProblem, before: SeasonPlan | null) => SeasonPlan;

export interface LivedSeason {
  readonly value: number;
  readonly light: number;
  readonly balance: number;
  readonly completion: number;
  /** By project the night in which it was finished; −1 where it wasn't. */
  readonly finished: Int32Array;
  /** Clock seconds spent, by project. */
  readonly spentSec: Float64Array;
}

const NEARLY = 1e-9;

export function liveSeason(problem: SeasonProblem, evening: Evening, world: LifeWorld): LivedSeason {
  const { goals, panels, projects, lanes } = problem;
  const accepted = new Float64Array(goals.length);
  const spentSec = new Float64Array(projects.length);
  const finished = new Int32Array(projects.length).fill(-1);
  let light = 0;
  let before: SeasonPlan | null = null;
  const nights = [...new Set(lanes.map(({ night }) => night))];
  for (const night of nights) {
    const first = lanes.findIndex((lane) => lane.night === night);
    const known: SeasonPlan | null = before && before.slice(before.length - (lanes.length - first));
    if (!world.clear[night]) {
      before = known;
      continue;
    }
    const rest = restFrom(problem, first, accepted, world);
    const plan = evening(rest, known);
    plan.forEach((runs, l) => {
      if (rest.lanes[l].night !== night) return;
      for (const { goal, count, startSec } of runs) {
        const { cycleSec, row, value, panel } = goals[goal];
        spentSec[panels[panel].project] += count * cycleSec;
        for (let i = 0; i < count; i++) {
          if (world.random() >= world.acceptance || accepted[goal] >= goals[goal].count) continue;
          accepted[goal] += 1;
          light += value * meanRate(problem, first + l, row, startSec + i * cycleSec, cycleSec);
        }
      }
    });
    for (let r = 0; r < projects.length; r++)
      if (finished[r] < 0 && goals.every((goal, g) => panels[goal.panel].project !== r || accepted[g] >= goal.count - NEARLY)) finished[r] = night; // prettier-ignore
    before = plan;
  }
  const share = (g: number, taken: number): number => Math.min(1, (goals[g].done + taken) / goals[g].wanted);
  const balance = panels.reduce((sum, panel, p) => {
    const own = goals.flatMap((goal, g) => (goal.panel === p ? [g] : []));
    const least = (taken: (g: number) => number): number => Math.min(...own.map((g) => share(g, taken(g))));
    return sum + (own.length > 0 ? panel.balance * (least((g) => accepted[g]) - least(() => 0)) : 0);
  }, 0);
  const isOpen = projects.map((_, r) => goals.some((goal) => panels[goal.panel].project === r && goal.count > 0));
  const completion = projects.reduce((sum, { bonus }, r) => sum + (finished[r] >= 0 && isOpen[r] ? bonus : 0), 0);
  return { value: light + balance + completion, light, balance, completion, finished, spentSec };
}

/** What is left from a lane on: exposures to take so that as many as wanted are accepted; tonight is clear, and the nights after it likelier so. */
function restFrom(problem: SeasonProblem, first: number, accepted: Float64Array, world: LifeWorld): SeasonProblem {
  const { acceptance: q, odds, persistence } = world;
  const lanes = problem.lanes.slice(first);
  return {
    ...problem,
    goals: problem.goals.map((goal, g) => ({
      ...goal,
      wanted: goal.wanted / q,
      done: (goal.done + accepted[g]) / q,
      count: Math.ceil(Math.max(0, goal.count - accepted[g]) / q - NEARLY),
    })),
    lanes: lanes.map((lane) => ({ ...lane, odds: odds + persistence ** (lane.night - lanes[0].night) * (1 - odds) })),
  };
}

function meanRate({ lanes, slotSec }: SeasonProblem, l: number, row: number, fromSec: number, sec: number): number {
  const { rates, slots } = lanes[l];
  let sum = 0;
  for (let at = fromSec; at < fromSec + sec - NEARLY;) {
    const slot = Math.min(slots - 1, Math.floor(at / slotSec + NEARLY));
    const until = Math.min(fromSec + sec, (slot + 1) * slotSec);
    sum += rates[row * slots + slot] * (until - at);
    at = until;
  }
  return sum / sec;
}
