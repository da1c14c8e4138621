// Wanted counts shifted between a project's filters, within the hours that they want together: where exposures were worth less than
// those of the better nights, the filter gets hours of those where they were worth more.
import type { DeepExposure } from './depth-map.ts';
import { surfaceNoise } from './depth-map.ts';
import { quantileOf } from '../units.ts';

/** The better exposures of a filter are those at this place when sorted by what a second of them is worth. */
const BETTER = 0.75;

/** What exposures of one filter are worth, in seconds as the better of them were: under moonlight or cloud a second is worth less.
 * @returns 0 for none */
export function worthSec(exposures: readonly DeepExposure[]): number {
  const rated = exposures.map((exposure) => {
    const worth = 1 / surfaceNoise(exposure) ** 2;
    return { worth, perSec: worth / exposure.exposureSec };
  });
  if (rated.length === 0) return 0;
  const rates = rated.map(({ perSec }) => perSec);
  const better = quantileOf(rates, BETTER);
  // What is better still counts no more than its length: seeing and chance.
  return rated.reduce((sum, { worth, perSec }) => sum + (worth / perSec) * Math.min(1, perSec / better), 0);
}

export interface FilterHours {
  readonly wantedHours: number;
  readonly gatheredHours: number;
  /** Of those gathered, as hours of the better exposures; at most as many. */
  readonly worthHours: number;
}

export interface ShiftedHours {
  readonly wantedHours: number;
  /** What signal over noise gains or loses at the end, against the counts as they are: 0.05 is 5 % more. */
  readonly gain: number;
}

const ROUNDS = 60;

/** Hours for each filter so that in the end all are worth as much of what they want as each other, as far as hours not yet gathered
 * go; together they want no more than before. What is gathered stays. */
export function shiftedHours(filters: readonly FilterHours[]): ShiftedHours[] {
  const shares = filters.map(qualityOf);
  const left = filters.reduce(
    (sum, { wantedHours, gatheredHours }) => sum + Math.max(0, wantedHours - gatheredHours),
    0,
  );
  const wantedAt = (level: number): number[] =>
    filters.map((filter, i) => hoursFor(filter, shares[i], level * filter.wantedHours));
  const usedAt = (level: number): number =>
    wantedAt(level).reduce((sum, hours, i) => sum + hours - filters[i].gatheredHours, 0);
  let [low, high] = [0, 1];
  while (usedAt(high) < left && high < 64) high *= 2;
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (low + high) / 2;
    if (usedAt(middle) <= left) low = middle;
    else high = middle;
  }
  const hours = wantedAt(low);
  return filters.map((filter, i) => ({
    wantedHours: hours[i],
    gain: Math.sqrt(worthAt(filter, shares[i], hours[i]) / worthAt(filter, shares[i], Math.max(filter.wantedHours, filter.gatheredHours))) - 1, // prettier-ignore
  }));
}

/** What an hour of a filter is worth, as those gathered were; a whole one where there is none. */
const qualityOf = ({ gatheredHours, worthHours }: FilterHours): number =>
  gatheredHours > 0 ? Math.min(1, Math.max(0.05, worthHours / gatheredHours)) : 1;

/** Hours at which a filter is worth so many, never fewer than are gathered. */
const hoursFor = ({ gatheredHours, worthHours }: FilterHours, quality: number, worth: number): number =>
  gatheredHours + Math.max(0, worth - worthHours) / quality;

const worthAt = ({ gatheredHours, worthHours }: FilterHours, quality: number, hours: number): number =>
  Math.max(1e-9, worthHours + (hours - gatheredHours) * quality);
