// What would help a project, in words.
import type { HelpsAnswer } from '@meridiem/contract';
import type { HelpKey } from '@meridiem/core';
import { LESS_SIGNAL_SHARE, LOWER_ALTITUDE_DEG, MORE_MOONLIGHT_MAG } from '@meridiem/core';
import { finishWords } from '../../words/finish.ts';
import { hours, percent } from '../../words/format.ts';

type Helps = NonNullable<HelpsAnswer['helps']>;

const CHANGES: Readonly<Record<HelpKey, string>> = {
  putFirst: 'put before all others',
  lowerAltitude: `allowed ${LOWER_ALTITUDE_DEG}° lower`,
  moreMoonlight: `allowed ${MORE_MOONLIGHT_MAG} mag more moonlight`,
  lessSignal: `allowed ${Math.round(100 * LESS_SIGNAL_SHARE)} % less signal`,
  moreHours: 'granted more hours',
  noDeadline: 'without its last night',
  noClosures: 'with the closed nights open',
  turnCamera: 'with the camera turned to its angle on a visit',
  rigAlone: 'with the rig to itself',
  otherRig: 'with its rest on another rig',
};

/** "Allowed 5° lower: by Wed 27 Jan with odds of 40 %, …", or by how many hours more are expected: these seasons are searched for a shorter time than the page's own, so only differences are said. */
export function helpWords({ key, rigName, forecast }: Helps['helps'][number], { asIs, lastNight }: Helps): string {
  const more = `about ${hours(forecast.expectedHours - asIs.expectedHours)} h more expected`;
  const finished = `finished in ${percent(forecast.finishedShare)} of the seasons instead of ${percent(asIs.finishedShare)}`;
  const isSooner = forecast.finishedShare > asIs.finishedShare + 0.005;
  const change = rigName ? `with its rest on ${rigName}, by recipes for the same filters` : CHANGES[key];
  return `${capital(change)}: ${isSooner ? `${finishWords(forecast, lastNight)}, ${finished}` : more}`;
}

/** The changes that were tried without a gain, as one sentence; null where there are none. */
export function uselessWords({ useless }: Helps): string | null {
  if (useless.length === 0) return null;
  return `Tried without a gain: ${useless.map((key) => CHANGES[key]).join('; ')}.`;
}

const capital = (words: string): string => words[0].toUpperCase() + words.slice(1);
