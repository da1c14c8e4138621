// Small one-night cases from a seed, and their optimum by plain enumeration: shares nothing with the planner but the case's shape.
import type { PlannerCase } from '../src/planning/cases.ts';
import type { Random } from '../src/random.ts';
import { seededRandom } from '../src/random.ts';

const int = (random: Random, low: number, high: number): number => low + Math.floor(random() * (high - low + 1));

export function randomCase(seed: number): Omit<PlannerCase, 'optimum'> {
  const random = seededRandom(seed);
  const length = int(random, 5, 11) * 10;
  const goalCount = int(random, 2, 4);
  const panelCount = int(random, 1, Math.min(3, goalCount));
  const projectOf = Array.from({ length: panelCount }, () => int(random, 0, 1));
  const goals = Array.from({ length: goalCount }, (_, g) => {
    const panel = g < panelCount ? g : int(random, 0, panelCount - 1);
    const n = int(random, 1, 5);
    return {
      id: `G${g}`,
      project: projectOf[panel],
      panel,
      t: [5, 10, 20][int(random, 0, 2)],
      n: n + 1,
      v: int(random, 1, 20) / 5,
      done: int(random, 0, 1),
      win: [randomWindows(random, length)],
    };
  });
  const bal =
    random() < 0.4
      ? [
          {
            weight: int(random, 2, 14),
            goals: goals.filter((goal) => goal.panel === goals[0].panel).map((goal) => goal.id),
          },
        ]
      : undefined;
  return {
    name: `random ${seed}`,
    nights: [length],
    slew: int(random, 0, 8),
    fch: int(random, 0, 3),
    bonus: [int(random, 0, 9), int(random, 0, 9)],
    ...(bal ? { bal } : {}),
    goals,
  };
}

function randomWindows(random: Random, length: number): [number, number, number][] {
  const from = int(random, 0, length / 2);
  const to = int(random, from + 5, length);
  const windows: [number, number, number][] = [[from, to, int(random, 2, 10) / 10]];
  if (random() < 0.4 && to + 10 < length) windows.push([to + int(random, 1, 5), length, int(random, 2, 10) / 10]);
  return windows;
}

/** The best value of a one-night case: every order of exposures, each in each of its windows as early as it can be. */
export function bruteForce(source: Omit<PlannerCase, 'optimum'>): number {
  const [length] = source.nights;
  const left = source.goals.map((goal) => goal.n - (goal.done ?? 0));
  const placed = source.goals.map(() => 0);
  const seen = new Map<string, number>();
  let best = -Infinity;
  const search = (time: number, last: number, value: number): void => {
    const key = `${placed.join()}|${last}|${time}`;
    if ((seen.get(key) ?? -Infinity) >= value) return;
    seen.set(key, value);
    best = Math.max(best, value + extras(source, placed));
    source.goals.forEach((goal, g) => {
      if (placed[g] >= left[g]) return;
      const before = source.goals[last];
      const change = last < 0 ? 0 : before.panel !== goal.panel ? source.slew : last === g ? 0 : source.fch;
      for (const [from, to, rate] of goal.win[0]) {
        const start = Math.max(time + change, from);
        if (start + goal.t > to || start + goal.t > length) continue;
        placed[g] += 1;
        search(start + goal.t, g, value + goal.v * rate);
        placed[g] -= 1;
      }
    });
  };
  search(0, -1, 0);
  return best;
}

function extras(source: Omit<PlannerCase, 'optimum'>, placed: readonly number[]): number {
  const done = source.goals.map((goal, g) => (goal.done ?? 0) + placed[g]);
  let value = 0;
  (source.bonus ?? []).forEach((bonus, project) => {
    const own = source.goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
    const wasOpen = own.some((g) => (source.goals[g].done ?? 0) < source.goals[g].n);
    if (own.length > 0 && wasOpen && own.every((g) => done[g] >= source.goals[g].n)) value += bonus;
  });
  for (const { weight, goals } of source.bal ?? []) {
    const members = source.goals.flatMap((goal, g) => (goals.includes(goal.id) ? [g] : []));
    const least = (counts: readonly number[]): number => Math.min(...members.map((g) => counts[g] / source.goals[g].n));
    value += weight * (least(done) - least(source.goals.map((goal) => goal.done ?? 0)));
  }
  return value;
}
