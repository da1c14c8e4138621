// What a swap of hours does to finishing dates, in words.
import type { ChangedEnd } from '@meridiem/contract';
import { HARDLY, shortDay } from '../../words/finish.ts';
import { count, dayOf, percent } from '../../words/format.ts';

/** When a project ends before a swap and after it. */
export function endAfterSwap(
  { nights, middleWithout, middleWith, finishedShareWithout, finishedShareWith, isNoticeable, isSooner }: ChangedEnd,
  lastNight: string,
): string {
  if (!isNoticeable && !isSooner) {
    if (middleWithout) return `${shortDay(middleWithout)}, no noticeable change`;
    if (finishedShareWithout < HARDLY) return `not by ${dayOf(lastNight)}, before or after`;
    return `by ${dayOf(lastNight)} with odds of ${percent(finishedShareWithout)}, no noticeable change`;
  }
  if (nights !== null && nights !== 0) {
    const by = Math.abs(nights);
    const moved = `${count(by)} ${by === 1 ? 'night' : 'nights'} ${nights > 0 ? 'later' : 'sooner'}`;
    return `${shortDay(middleWith!)} instead of ${shortDay(middleWithout!)}, ${moved}`;
  }
  return `finished by ${dayOf(lastNight)} with odds of ${percent(finishedShareWith)} instead of ${percent(finishedShareWithout)}`;
}

export const othersWords = (delayed: number): string =>
  delayed === 0
    ? 'No noticeable delay for anyone else.'
    : `${count(delayed)} ${delayed === 1 ? 'project of another member ends' : 'projects of other members end'} noticeably later.`;
