// The planner's answer about one goal at one moment, in sentences with numbers.
import type { NightSky } from '@meridiem/contract';
import type { MomentReason } from '@meridiem/core';
import { DateTime } from 'luxon';
import { clock, percent } from '../../words/format.ts';
import { longReason } from '../../words/reasons.ts';

/** The moment of a night at which clocks of a zone show a time; null where that is none. */
export function momentOfClock(text: string, sky: NightSky, zone: string): number | null {
  const read = /^(\d{1,2})[:.h ]?(\d{2})$/.exec(text.trim());
  if (!read || Number(read[1]) > 23 || Number(read[2]) > 59) return null;
  const [hour, minute] = [Number(read[1]), Number(read[2])];
  const evening = DateTime.fromMillis(sky.startUtcMs, { zone });
  const first = evening.set({ hour, minute, second: 0, millisecond: 0 });
  const moment = first < evening ? first.plus({ days: 1 }) : first;
  return moment.toMillis() < sky.endUtcMs ? moment.toMillis() : null;
}

const lost = (costs: number): string =>
  costs < 0.005
    ? 'Forcing it would cost nothing: it is a near tie'
    : `Forcing it would lower the night’s value by ${costs.toFixed(2)}`;

export function momentWords(reason: MomentReason, zone: string, nameOf: (goalId: string) => string): string {
  const plain = (code: string): string =>
    longReason({ code, limit: null, best: null, worst: null, origin: null, rival: null, interval: null }, zone);
  switch (reason.code) {
    case 'LIMIT': {
      const { code, limit, best, worst, origin, startUtcMs, endUtcMs } = reason.gap;
      return longReason({ code, limit, best, worst, origin, rival: null, interval: { startUtcMs, endUtcMs } }, zone);
    }
    case 'DAY':
      return 'The sun is up then, or that part of the night is over.';
    case 'NOTHING_LEFT':
      return 'Nothing is left to take of it tonight.';
    case 'WINDOW_ENDS':
      return `An exposure that begins then would not end before ${clock(reason.endUtcMs, zone)}, when its limits close.`;
    case 'EXPOSED': {
      const better = reason.better
        ? ` Its best is ${percent(reason.better.rate)} at ${clock(reason.better.utcMs, zone)}.`
        : ' That is its best tonight.';
      const second = reason.second
        ? ` Without it ${nameOf(reason.second.goalId)} would have the hour, and the night’s value would fall by ${reason.second.costs.toFixed(2)}.`
        : '';
      return `It is exposed then, at ${percent(reason.rate)} of its best light.${better}${second}`;
    }
    case 'WAITS':
      return `It waits for ${clock(reason.atUtcMs, zone)}, when it gathers ${percent(reason.rateThen)} of its best light; then it would be ${percent(reason.rate)}. ${lost(reason.costs)}.`;
    case 'OUTBID':
      return `It could be exposed at ${percent(reason.rate)} of its best light, but ${reason.rivalGoalId ? `${nameOf(reason.rivalGoalId)} has the hour` : 'the hour is left free'}. ${lost(reason.costs)}.`;
    case 'CAMERA_ANGLE':
      return 'The camera is turned by hand and is at another angle now; a visit would make this panel possible.';
    default:
      return plain(reason.code);
  }
}
