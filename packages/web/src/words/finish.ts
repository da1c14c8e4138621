// When work ends, in words, from what played-out seasons say.
import type { Consequences } from '@meridiem/contract';
import { DateTime } from 'luxon';
import { dayOf, hours, percent } from './format.ts';

export type Forecast = Consequences['own'];

/** Work is said not to end where fewer of the seasons played out finish it. */
export const HARDLY = 0.1;

/** When a project ends, as a range that eight in ten seasons keep. */
export function finishWords(project: Forecast, lastNight: string): string {
  const { early, middle, late, finishedShare, leftHours, isOpenEnded, expectedHours } = project;
  if (isOpenEnded) return `open-ended, about ${hours(expectedHours)} h expected`;
  if (leftHours === 0) return 'nothing left to take';
  if (finishedShare < HARDLY) return `not by ${dayOf(lastNight)}`;
  if (early && middle && late)
    return early === late ? shortDay(early) : `${shortRange(early, late)}, most likely ${shortDay(middle)}`;
  return `by ${dayOf(lastNight)} with odds of ${percent(finishedShare)}${early ? `, not before ${dayOf(early)}` : ''}`;
}

export const shortDay = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('d LLL');

/** The month once where both days lie in it. */
const shortRange = (from: string, to: string): string =>
  from.slice(0, 7) === to.slice(0, 7)
    ? `${Number(from.slice(8))}–${shortDay(to)}`
    : `${shortDay(from)} – ${shortDay(to)}`;
