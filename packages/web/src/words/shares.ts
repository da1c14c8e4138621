// Shares and standing in words.
import type { StandingRow } from '@meridiem/contract';
import type { SharedSky } from '@meridiem/core';
import { hours } from './format.ts';

export const SKY_WORDS: Readonly<Record<SharedSky, string>> = { dark: 'moonless', bright: 'moonlit' };

/** Hours entitled to and not charged; below 0 for who is ahead. */
export const behindHours = ({ entitledHours, givenHours, chargedHours }: StandingRow): number =>
  entitledHours + givenHours - chargedHours;

/** "4.2 h behind", "1.0 h ahead", "even" */
export function behindWords(row: StandingRow): string {
  const behind = behindHours(row);
  if (Math.abs(behind) < 0.05) return 'even';
  return `${hours(Math.abs(behind))} h ${behind > 0 ? 'behind' : 'ahead'}`;
}

/** "counts 1.30 ×" */
export const timesWords = (multiplier: number): string => `${multiplier.toFixed(2)} ×`;

/** Whole sentences for the margin. */
export function multiplierReasons(row: StandingRow, fairness: number | null): string[] {
  const { entitledHours, givenHours, lapsedHours, chargedHours, skyClass, multiplier, memberName } = row;
  const lapsed =
    lapsedHours < 0.05
      ? ''
      : ` ${hours(lapsedHours)} h of that lapse: no more than a number of open nights’ share, set on Standing, is carried over.`;
  const given =
    Math.abs(givenHours) < 0.05
      ? ''
      : givenHours > 0
        ? `, got ${hours(givenHours)} h from others`
        : `, gave ${hours(-givenHours)} h to others`;
  return [
    `${memberName} was entitled to ${hours(entitledHours)} h of ${SKY_WORDS[skyClass]} sky over the open nights counted${given}, and was charged ${hours(chargedHours)} h: ${behindWords(row)}.${lapsed}`,
    `Plans therefore count each of these hours ${timesWords(multiplier)}${fairness === null ? '' : `, with fairness set to ${Math.round(100 * fairness)} %`}. No one is entitled to hours they had no work for, and hours lost to weather or faults belong to no one.`,
  ];
}
