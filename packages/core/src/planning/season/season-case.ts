// A season case as its files state it, turned into the problem that the application's seasons are turned into as well.
import type { SeasonLane, SeasonPlan, SeasonProblem } from './season-problem.ts';

export interface SeasonCase {
  readonly name: string;
  readonly slotSec: number;
  readonly nights: number;
  readonly rigs: number;
  readonly coefficients: { readonly light: number; readonly balance: number; readonly completion: number };
  readonly projects: readonly { readonly weight: number; readonly panels: readonly number[] }[];
  readonly panels: readonly { readonly project: number; readonly raHours: number; readonly decDeg: number }[];
  readonly goals: readonly {
    readonly panel: number;
    readonly filter: string;
    readonly class: number;
    readonly exposureSec: number;
    readonly cycleSec: number;
    readonly wanted: number;
    readonly done: number;
  }[];
  readonly change: {
    readonly slew: {
      readonly minSec: number;
      readonly maxSec: number;
      readonly fullDeg: number;
      readonly degPerRaHour: number;
    };
    readonly filterSec: number;
    readonly refocusOnBandChangeSec: number;
  };
  /** `rates`: base64 of raw deflate of bytes, 250 at rate 1. */
  readonly night: readonly { readonly slots: number; readonly rates: string }[];
}

const CLASSES = 3;
const RATE_ONE = 250;

/** @param inflate base64 of raw deflate to bytes */
export function problemOfCase(given: SeasonCase, inflate: (rates: string) => Uint8Array): SeasonProblem {
  const { coefficients, projects, panels, goals, night, rigs } = given;
  const hoursOf = (own: SeasonCase['goals']): number =>
    own.reduce((sum, { wanted, exposureSec }) => sum + (wanted * exposureSec) / 3600, 0);
  const panelHours = panels.map((_, p) => hoursOf(goals.filter(({ panel }) => panel === p)));
  const filters = [...new Map(goals.map(({ filter, class: band }) => [filter, band])).entries()];
  const weightOf = (panel: number): number => projects[panels[panel].project].weight;
  return {
    slotSec: given.slotSec,
    goals: goals.map((goal) => ({
      panel: goal.panel,
      filter: filters.findIndex(([name]) => name === goal.filter),
      row: goal.panel * CLASSES + goal.class,
      exposureSec: goal.exposureSec,
      cycleSec: goal.cycleSec,
      wanted: goal.wanted,
      done: goal.done,
      count: Math.max(0, goal.wanted - goal.done),
      value: (coefficients.light * weightOf(goal.panel) * goal.exposureSec) / 3600,
    })),
    panels: panels.map(({ project }, p) => ({ project, balance: coefficients.balance * weightOf(p) * panelHours[p] })),
    projects: projects.map(({ weight, panels: own }) => ({
      bonus: coefficients.completion * weight * own.reduce((sum, p) => sum + panelHours[p], 0),
    })),
    lanes: night.flatMap(({ slots, rates }, n) => lanesOf({ slots, rates: ratesFrom(inflate(rates)), night: n, rigs })),
    panelChangeSec: slews(given),
    filterChangeSec: filterChanges(given, filters),
    filters: filters.length,
  };
}

/** A plan as the cases' files write it: lanes of [goal, count, start in seconds to the millisecond]. */
export const planOfCase = (plan: SeasonPlan): (readonly [number, number, number])[][] =>
  plan.map((runs) => runs.map(({ goal, count, startSec }) => [goal, count, Math.round(startSec * 1000) / 1000]));

const ratesFrom = (bytes: Uint8Array): Float32Array => Float32Array.from(bytes, (byte) => byte / RATE_ONE);

const lanesOf = (of: { slots: number; rates: Float32Array; night: number; rigs: number }): SeasonLane[] =>
  Array.from({ length: of.rigs }, (_, rig) => ({ night: of.night, rig, slots: of.slots, rates: of.rates, odds: 1 }));

function slews({ panels, change: { slew } }: SeasonCase): Float64Array {
  const seconds = new Float64Array(panels.length ** 2);
  panels.forEach((a, i) =>
    panels.forEach((b, k) => {
      if (i === k) return;
      const raHours = ((b.raHours - a.raHours + 36) % 24) - 12;
      const apartDeg = Math.abs(raHours) * slew.degPerRaHour + Math.abs(b.decDeg - a.decDeg);
      seconds[i * panels.length + k] = slew.minSec + (slew.maxSec - slew.minSec) * Math.min(1, apartDeg / slew.fullDeg);
    }),
  );
  return seconds;
}

function filterChanges({ change }: SeasonCase, filters: readonly (readonly [string, number])[]): Float64Array {
  return Float64Array.from({ length: filters.length ** 2 }, (_, i) => {
    const [from, to] = [Math.floor(i / filters.length), i % filters.length];
    if (from === to) return 0;
    const isOtherBand = (filters[from][1] === 0) !== (filters[to][1] === 0);
    return change.filterSec + (isOtherBand ? change.refocusOnBandChangeSec : 0);
  });
}
