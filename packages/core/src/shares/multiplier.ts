// How far a member is behind or ahead of what they are entitled to, and what their hours count for it.

import type { SharedSky } from './entitlement.ts';

/** How much fairness counts until an observatory says otherwise: 0 not at all, 1 fully. */
export const DEFAULT_FAIRNESS = 0.5;
/** Nights whose share of open hours damps the multiplier. */
export const DAMPING_NIGHTS = 10;
/** Open nights that standing looks back on: cloud ages nothing. */
export const STANDING_NIGHTS = 60;
const LEAST = 0.5;
const MOST = 2.5;

/** Charged and entitled hours of one member, rig and sky class, both weighted as hours are charged. */
export interface Standing {
  readonly entitledHours: number;
  readonly chargedHours: number;
  /** The member's share of ten open nights; damps small numbers. */
  readonly dampingHours: number;
}

/** Nights whose share a member who is behind carries over at most, until an observatory says otherwise. */
export const DEFAULT_CARRY_OVER_NIGHTS = 20;

/** Hours behind that no longer count: more than so many open nights' share is not carried over.
 * @param nightHours the member's share of the hours of a mean open night */
export const lapsedHours = (
  { entitledHours, chargedHours }: Pick<Standing, 'entitledHours' | 'chargedHours'>,
  nightHours: number,
  carryOverNights: number,
): number => Math.max(0, entitledHours - chargedHours - carryOverNights * nightHours);

/** m = (1 − λ) + λ · (E + h) / (D + h), between 0.5 and 2.5: above 1 for whoever is behind.
 * @param fairness λ, 0 to 1 */
export function hoursMultiplier({ entitledHours, chargedHours, dampingHours }: Standing, fairness: number): number {
  if (dampingHours <= 0 && chargedHours <= 0) return 1;
  const ratio = (Math.max(0, entitledHours) + dampingHours) / (Math.max(0, chargedHours) + dampingHours);
  return Math.min(MOST, Math.max(LEAST, 1 - fairness + fairness * ratio));
}

/** What hours of a night count where they differ by sky: the mean over the hours that the night has of each, since a night's plan weighs a project once.
 * @param hours of the night without the moon and with it; both alike where there are none */
export function nightMultiplier(
  multipliers: Readonly<Record<SharedSky, number>>,
  { dark, bright }: Readonly<Record<SharedSky, number>>,
): number {
  const total = dark + bright;
  return total > 0
    ? (dark * multipliers.dark + bright * multipliers.bright) / total
    : (multipliers.dark + multipliers.bright) / 2;
}

/** Ranks as weights, divided by their mean weighted by what is left of each project: ranking everything top gains nothing.
 * @param leftHours hours left of each project's envelope, or of its goals
 * @returns weights whose mean over the hours is 1 */
export function rankWeights(ranks: readonly number[], leftHours: readonly number[]): number[] {
  const weights = ranks.map((rank) => RANKS[rank] ?? 1);
  const hours = leftHours.reduce((sum, left) => sum + left, 0);
  if (hours <= 0) return weights.map(() => 1);
  const mean = weights.reduce((sum, weight, i) => sum + weight * leftHours[i], 0) / hours;
  return weights.map((weight) => weight / mean);
}

/** A member's own ranks: first, middle, last. */
const RANKS: Readonly<Record<number, number>> = { 1: 0.67, 2: 1, 3: 1.5 };
