// Wanted counts shifted between filters, as a proposal: what each goal would want, and what that does to each filter.
import type { FilterDepth, Goal } from '@meridiem/contract';
import type { FilterHours } from '@meridiem/core';
import { shiftedHours } from '@meridiem/core';
import { percent } from '../../words/format.ts';
import type { NewCount } from './queries.ts';

export interface ShiftedFilter {
  readonly letter: string;
  /** Exposures, of all panels. */
  readonly wanted: number;
  readonly proposed: number;
  /** "+6 %" */
  readonly gain: string;
  /** "2.9 of 4.0 h" */
  readonly worth: string;
}

export interface ShiftedCounts {
  readonly filters: readonly ShiftedFilter[];
  readonly counts: readonly NewCount[];
}

/** Below this nothing is gained worth a change. */
const LEAST_GAIN = 0.01;

type Told = Pick<FilterDepth, 'filterId' | 'letter' | 'measured' | 'exposureSec' | 'worthSec'>;
interface OfFilter extends Told {
  readonly goals: readonly Goal[];
  readonly hours: FilterHours;
}

/** @returns null where there is nothing to shift, or it would gain nothing */
export function shiftedCounts(goals: readonly Goal[], filters: readonly Told[]): ShiftedCounts | null {
  const open = goals.filter(({ enabled, wanted }) => enabled && wanted !== null);
  const parts = filters
    .map((filter): OfFilter => {
      const own = open.filter(({ filterId }) => filterId === filter.filterId);
      return { ...filter, goals: own, hours: hoursOf(own, filter) };
    })
    .filter(({ goals: own }) => own.length > 0);
  if (parts.length < 2 || !parts.some(({ measured }) => measured > 0)) return null;
  const shifted = shiftedHours(parts.map(({ hours }) => hours));
  if (!shifted.some(({ gain }) => gain >= LEAST_GAIN)) return null;
  const proposed = parts.map((part, i) => countsOf(part, shifted[i].wantedHours));
  const counts = proposed.flat().filter(({ goal, count }) => count !== goal.wanted);
  if (counts.length === 0) return null;
  const total = (own: readonly { readonly count: number }[]): number => own.reduce((sum, { count }) => sum + count, 0);
  return {
    counts,
    filters: parts.map(({ letter, goals: own, hours }, i) => ({
      letter,
      wanted: own.reduce((sum, { wanted }) => sum + wanted!, 0),
      proposed: total(proposed[i]),
      gain: signed(shifted[i].gain),
      worth: `${hours.worthHours.toFixed(1)} of ${hours.gatheredHours.toFixed(1)} h`,
    })),
  };
}

const gathered = ({ tally }: Goal): number => Math.floor(tally.accepted + tally.undecided);

function hoursOf(goals: readonly Goal[], { measured, exposureSec, worthSec }: Told): FilterHours {
  const sum = (count: (goal: Goal) => number): number =>
    goals.reduce((all, goal) => all + count(goal) * goal.exposureSec, 0) / 3600;
  const gatheredHours = sum(gathered);
  const quality = measured > 0 && exposureSec > 0 ? Math.min(1, worthSec / exposureSec) : 1;
  return { wantedHours: sum(({ wanted }) => wanted!), gatheredHours, worthHours: gatheredHours * quality };
}

/** Each goal's part of what is left grows or shrinks alike; rounded down, so that no hour is added. */
function countsOf({ goals, hours }: OfFilter, wantedHours: number): NewCount[] {
  const leftSec = 3600 * Math.max(0, wantedHours - hours.gatheredHours);
  const left = (goal: Goal): number => Math.max(0, goal.wanted! - gathered(goal));
  const leftNowSec = goals.reduce((sum, goal) => sum + left(goal) * goal.exposureSec, 0);
  return goals.map((goal) => {
    const share = leftNowSec > 0 ? (left(goal) * goal.exposureSec) / leftNowSec : 1 / goals.length;
    const more = Math.floor((share * leftSec) / goal.exposureSec + 1e-6);
    return { goal, count: more === 0 ? Math.min(goal.wanted!, gathered(goal)) : gathered(goal) + more };
  });
}

const signed = (share: number): string =>
  Math.abs(share) < 0.005 ? '±0 %' : `${share > 0 ? '+' : '−'}${percent(Math.abs(share))}`;
