// A shared observatory lived through night by night: hours entitled and charged as the application counts them, each night planned with what members' hours then count.
import type { SeasonPlan, SeasonProblem } from '../src/planning/season/season-problem.ts';
import { changeBetweenSec } from '../src/planning/season/season-problem.ts';
import { planSeason } from '../src/planning/season/plan-season.ts';
import { valueOfSeason } from '../src/planning/season/season-value.ts';
import type { SharedSky } from '../src/shares/entitlement.ts';
import { entitledHours } from '../src/shares/entitlement.ts';
import { DAMPING_NIGHTS, hoursMultiplier, nightMultiplier, STANDING_NIGHTS } from '../src/shares/multiplier.ts';

export interface SharedLife {
  readonly problem: SeasonProblem;
  /** By project. */
  readonly memberOf: readonly string[];
  /** By night, whose hours are shared then and how. */
  readonly sharesOn: (night: number) => Readonly<Record<string, number>>;
  readonly clear: ArrayLike<number>;
  readonly fairness: number;
  readonly iterations: number;
}

export interface LivedShare {
  readonly entitled: number;
  readonly charged: number;
  readonly multiplier: number;
}

export interface Lived {
  readonly members: Readonly<Record<string, LivedShare>>;
  /** Of everything taken, measured without fairness. */
  readonly value: number;
  readonly plan: SeasonPlan;
}

const WEIGHTS: Readonly<Record<SharedSky, number>> = { dark: 1, bright: 0.5 };
type Hours = Readonly<Record<SharedSky, number>>;
interface Told {
  readonly entitled: Map<string, Hours>;
  readonly charged: Map<string, Hours>;
}

export function liveShared({ problem, memberOf, sharesOn, clear, fairness, iterations }: SharedLife): Lived {
  const { goals, panels, lanes } = problem;
  const left = goals.map(({ count }) => count);
  const open: Told[] = [];
  const plan = lanes.map((lane): SeasonPlan[number] => {
    if (!clear[lane.night] || lane.slots === 0) return [];
    const shares = sharesOn(lane.night);
    const ownerOf = (goal: number): string => memberOf[panels[goals[goal].panel].project];
    const isThere = (goal: number): boolean => (shares[ownerOf(goal)] ?? 0) > 0;
    const weight = weightsOf(open, shares, fairness, moonlitShareOf(lane));
    const one: SeasonProblem = {
      ...problem,
      goals: goals.map((goal, g) => ({
        ...goal,
        count: isThere(g) ? left[g] : 0,
        done: goal.done + goal.count - left[g],
        value: goal.value * weight(ownerOf(g)),
      })),
      panels: panels.map((panel) => ({ ...panel, balance: panel.balance * weight(memberOf[panel.project]) })),
      projects: problem.projects.map((project, r) => ({ ...project, bonus: project.bonus * weight(memberOf[r]) })),
      lanes: [{ ...lane, odds: 1 }],
    };
    const [runs] = planSeason(one, { iterations, seed: 1 }).plan;
    open.push({ entitled: entitledIn(one, shares, ownerOf), charged: chargedIn(one, runs, ownerOf) });
    for (const { goal, count } of runs) left[goal] -= count;
    return runs;
  });
  const names = [...new Set(memberOf)];
  const last = sharesOn(lanes.at(-1)!.night);
  const members = names.map((name): [string, LivedShare] => [
    name,
    {
      entitled: total(open, 'entitled', name),
      charged: total(open, 'charged', name),
      multiplier: weightsOf(open, last, fairness, 0)(name),
    },
  ]);
  const clearly = { ...problem, lanes: lanes.map((lane) => ({ ...lane, odds: 1 })) };
  return { members: Object.fromEntries(members), value: valueOfSeason(clearly, plan), plan };
}

const hoursIn = (of: Map<string, Hours>, name: string): Hours => of.get(name) ?? { dark: 0, bright: 0 };
const total = (open: readonly Told[], kind: keyof Told, name: string): number =>
  open.reduce((sum, night) => sum + hoursIn(night[kind], name).dark + hoursIn(night[kind], name).bright, 0);

/** What a member's hours count in a night: the mean over both skies, by how much of the night each has. */
function weightsOf(
  open: readonly Told[],
  shares: Readonly<Record<string, number>>,
  fairness: number,
  moonlit: number,
): (name: string) => number {
  const recent = open.slice(-STANDING_NIGHTS);
  const all = Object.values(shares).reduce((sum, share) => sum + share, 0);
  const multiplier = (name: string, sky: SharedSky): number => {
    const sum = (kind: keyof Told, who: string): number => recent.reduce((hours, night) => hours + hoursIn(night[kind], who)[sky], 0); // prettier-ignore
    const openHours = [...new Set(recent.flatMap(({ entitled }) => [...entitled.keys()]))].reduce((hours, who) => hours + sum('entitled', who), 0); // prettier-ignore
    const perNight = openHours / Math.max(1, recent.length);
    const dampingHours = ((shares[name] ?? 0) / all) * DAMPING_NIGHTS * perNight;
    return hoursMultiplier({ entitledHours: sum('entitled', name), chargedHours: sum('charged', name), dampingHours }, fairness); // prettier-ignore
  };
  return (name) =>
    nightMultiplier(
      { dark: multiplier(name, 'dark'), bright: multiplier(name, 'bright') },
      { dark: 1 - moonlit, bright: moonlit },
    );
}

const moonlitShareOf = ({ moonlit, slots }: SeasonProblem['lanes'][number]): number =>
  Array.from(moonlit ?? []).reduce((sum, isUp) => sum + isUp, 0) / slots;

const skyOf = ({ lanes: [lane] }: SeasonProblem, slot: number): SharedSky => (lane.moonlit?.[slot] ? 'bright' : 'dark');

/** Each slot is shared among those who then have something open with exposures left. */
function entitledIn(
  problem: SeasonProblem,
  shares: Readonly<Record<string, number>>,
  ownerOf: (goal: number) => string,
): Map<string, Hours> {
  const { goals, slotSec, lanes } = problem;
  const [{ slots, rates }] = lanes;
  const slotAt = (slot: number) => ({ startUtcMs: slot * slotSec * 1000, endUtcMs: (slot + 1) * slotSec * 1000 });
  const work = Object.keys(shares).map((memberId) => ({
    memberId,
    windows: Array.from({ length: slots }, (_, slot) => slot)
      .filter((slot) =>
        goals.some(({ row, count }, g) => count > 0 && ownerOf(g) === memberId && rates[row * slots + slot] > 0),
      ) // prettier-ignore
      .map(slotAt),
  }));
  const stretches = Array.from({ length: slots }, (_, slot) => ({ ...slotAt(slot), skyClass: skyOf(problem, slot) }));
  const found = entitledHours(stretches, work, { shareOf: (memberId) => shares[memberId] ?? 0, weights: WEIGHTS });
  const sums = new Map<string, Hours>();
  for (const { memberId, skyClass, hours } of found)
    sums.set(memberId, { ...hoursIn(sums, memberId), [skyClass]: hours });
  return sums;
}

/** Exposures with their overheads, and the change before them. */
function chargedIn(
  problem: SeasonProblem,
  runs: SeasonPlan[number],
  ownerOf: (goal: number) => string,
): Map<string, Hours> {
  const sums = new Map<string, Hours>();
  runs.forEach(({ goal, count, startSec }, i) => {
    const before = runs[i - 1];
    const fromSec = startSec - (before ? changeBetweenSec(problem, before.goal, goal) : 0);
    const toSec = startSec + count * problem.goals[goal].cycleSec;
    for (let atSec = fromSec; atSec < toSec - 1e-6;) {
      const slot = Math.max(0, Math.floor(atSec / problem.slotSec + 1e-9));
      const untilSec = Math.min(toSec, (slot + 1) * problem.slotSec);
      const sky = skyOf(problem, slot);
      const hours = hoursIn(sums, ownerOf(goal));
      sums.set(ownerOf(goal), { ...hours, [sky]: hours[sky] + (WEIGHTS[sky] * (untilSec - atSec)) / 3600 });
      atSec = untilSec;
    }
  });
  return sums;
}
