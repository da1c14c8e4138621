// Why a project has, or has not, a place in a night of the season, in sentences with numbers.
import type { SeasonReason } from '@meridiem/contract';
import { dayOf, percent } from '../../words/format.ts';
import { longReason } from '../../words/reasons.ts';

export interface ReasonAbout {
  readonly zone: string;
  /** The season's value, which costs are a part of. */
  readonly value: number;
}

const SKIES = { dark: 'without the moon', bright: 'with the moon up' } as const;

export function seasonReasonWords(reason: SeasonReason, about: ReasonAbout): string {
  const { rate, firstNight, lastNight, rateThere } = reason;
  switch (reason.code) {
    case 'CLOSED':
      return 'The rig is closed that night.';
    case 'NO_NIGHT':
      return 'The sun doesn’t set that night.';
    case 'NOTHING_LEFT':
      return 'Nothing is left to take of it.';
    case 'PAST_LAST_NIGHT':
      return `Its last night is ${dayOf(lastNight!)}: what comes after it counts nothing.`;
    case 'NOT_SERVED':
      return notServedWords(reason);
    case 'LIMIT':
      return `${reason.filterLetter ?? 'Its light'}: ${longReason(reason.limit!, about.zone)}`;
    case 'WINDOW_TOO_SHORT':
      return `${reason.filterLetter ?? 'Its light'}: no window is as long as an exposure.`;
    case 'GRANT_USED':
      return `Its grant holds no hour ${reason.skies.map((sky) => SKIES[sky]).join(' or ')} beyond those planned in other nights.`;
    case 'HERE':
      return `It gathers ${percent(rate!)} of its best light here. ${
        firstNight
          ? `The best after it is ${percent(rateThere!)}, on ${dayOf(firstNight)}.`
          : 'No night after it is better.'
      } Without it ${heirWords(reason)}, and the season would lose ${lossWords(reason, about)}.`;
    case 'ELSEWHERE':
      return `All that it could take here is planned in other nights, ${
        firstNight === lastNight ? `on ${dayOf(firstNight!)}` : `from ${dayOf(firstNight!)} to ${dayOf(lastNight!)}`
      }, at ${percent(rateThere!)} of its best light; an hour here would have ${percent(rate!)}. ${forcedWords(reason, about)}`;
    case 'OUTBID':
      return `An hour here would have ${percent(rate!)} of its best light, but ${
        rivalWords(reason) ? `${rivalWords(reason)} has the time` : 'the time is left free'
      }. ${forcedWords(reason, about)}`;
  }
}

function notServedWords({ missing, firstNight, lastNight }: SeasonReason): string {
  const what = missing === 'filter' ? 'A filter that it needs is not in the wheel' : 'The camera is at another angle';
  const since = lastNight ? ` from the night of ${dayOf(lastNight)} on, by a planned visit` : '';
  return firstNight
    ? `${what}${since}. A planned visit changes that for the night of ${dayOf(firstNight)}.`
    : `${what}${since}, and no planned visit changes that.`;
}

const rivalWords = ({ rival, isRivalHidden }: SeasonReason): string | null =>
  rival ?? (isRivalHidden ? 'a private project' : null);

function heirWords(reason: SeasonReason): string {
  const rival = rivalWords(reason);
  return rival ? `${rival} would have the time` : 'the time would stay free';
}

/** "0.4 of its value of 31.9". */
const lossWords = ({ costs, isNoticeable }: SeasonReason, { value }: ReasonAbout): string =>
  isNoticeable ? `${costs!.toFixed(1)} of its value of ${value.toFixed(1)}` : 'nothing noticeable';

const forcedWords = (reason: SeasonReason, about: ReasonAbout): string =>
  reason.costs === null
    ? 'No hour of it can be forced in.'
    : `Forced in, it would cost the season ${lossWords(reason, about)}.`;
