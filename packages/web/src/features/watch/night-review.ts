// A night looked at afterwards, in words: what it reached of the best it could have been, and where the rest went.
import type { ShownNightReview } from '@meridiem/contract';
import type { GapCause } from '@meridiem/core';
import { hours, percent } from '../../words/format.ts';

const CAUSES: Readonly<Record<GapCause, string>> = {
  weather: 'Weather not known in advance',
  plan: 'Plans: a longer search finds more',
  hands: 'Changes and holds by hand',
  faults: 'Faults',
  overhead: 'Steps, against the rig’s own times',
  rejected: 'Exposures rejected afterwards',
  remainder: 'Not explained',
};
const SHOWN: readonly GapCause[] = ['weather', 'faults', 'overhead', 'hands', 'plan', 'rejected', 'remainder'];

/** Less is no matter of a night. */
const LEAST_HOURS = 0.05;

export interface GapLine {
  readonly cause: GapCause;
  readonly name: string;
  /** Positive: lost. */
  readonly hours: number;
  readonly words: string;
  /** Of the largest line, [0, 1]. */
  readonly barShare: number;
}

/** Every cause with its hours; those that hardly count have no bar. */
export function gapLines({ gapHours, overheadFactor }: ShownNightReview): GapLine[] {
  const most = Math.max(LEAST_HOURS, ...SHOWN.map((cause) => Math.abs(gapHours[cause])));
  return SHOWN.map((cause) => {
    const value = gapHours[cause];
    const isSmall = Math.abs(value) < LEAST_HOURS;
    const factor = cause === 'overhead' && Math.abs(overheadFactor - 1) >= 0.05 ? ` (${overheadFactor.toFixed(1)} × as long)` : ''; // prettier-ignore
    return {
      cause,
      name: `${CAUSES[cause]}${factor}`,
      hours: value,
      words: isSmall ? '0.0' : value > 0 ? hours(value) : `gained ${hours(-value)}`,
      barShare: isSmall ? 0 : Math.abs(value) / most,
    };
  });
}

/** "The best plan for this night’s weather would have exposed 8.2 h. The night reached 6.1 h of it, 74 %." */
export function reviewWords({ bestHours, takenHours }: ShownNightReview): string {
  if (bestHours === 0) return 'Nothing could have been exposed under this night’s weather.';
  const best = `The best plan for this night’s weather would have exposed ${hours(bestHours)} h.`;
  return `${best} The night reached ${hours(takenHours)} h of that, ${percent(takenHours / bestHours)}.`;
}

/** What kept the rig from exposing, in hours by the clock; null where nothing did. */
export function lostWords({ lostHours: { weather, fault, hand } }: ShownNightReview): string | null {
  const parts = [
    weather >= LEAST_HOURS ? `weather ${hours(weather)} h` : null,
    fault >= LEAST_HOURS ? `faults ${hours(fault)} h` : null,
    hand >= LEAST_HOURS ? `holds and stops by hand ${hours(hand)} h` : null,
  ].filter((part) => part !== null);
  return parts.length === 0 ? null : `No exposing was possible during: ${parts.join(', ')}.`;
}
