// Reasons in words: a short one for rows, whole sentences with numbers for the margin.
import type { Reason } from '@meridiem/contract';
import { clock, degrees, duration, percent } from './format.ts';

interface Wording {
  readonly short: (reason: Reason) => string;
  readonly long: (reason: Reason, zone: string) => string;
}

const deg = (value: number | null): string => (value === null ? '?' : degrees(value));
const origin = (reason: Reason): string =>
  reason.origin && reason.origin !== 'bound'
    ? ` The limit comes from: ${reason.origin}.`
    : reason.origin === 'bound'
      ? ' This is a bound of the observatory; no limit overrides it.'
      : '';
const when = ({ interval }: Reason, zone: string): string =>
  interval ? ` from ${clock(interval.startUtcMs, zone)} to ${clock(interval.endUtcMs, zone)}` : '';
const never = (code: string): Wording => ({ short: () => code, long: () => code });

const WORDINGS: Readonly<Record<string, Wording>> = {
  SUN_BOUND: {
    short: () => 'sun too high',
    long: (r, z) => `The sun is above the observatory’s bound of ${deg(r.limit)}${when(r, z)}.${origin(r)}`,
  },
  BELOW_HORIZON: {
    short: () => 'behind the horizon',
    long: (r, z) =>
      `The target is behind the horizon profile${when(r, z)}: at best ${deg(r.best)} over it, ${deg(r.limit)} needed.${origin(r)}`,
  },
  BELOW_MOUNT: {
    short: (r) => `too low: ${deg(r.best)} at best`,
    long: (r, z) =>
      `The target is lower than the mount may point${when(r, z)}: ${deg(r.best)} at best, ${deg(r.limit)} at least.${origin(r)}`,
  },
  ZENITH_HOLE: {
    short: () => 'in the zenith hole',
    long: (r, z) => `The mount can’t follow within ${deg(r.limit)} of the zenith${when(r, z)}.${origin(r)}`,
  },
  MERIDIAN_FLIP: { short: () => 'meridian flip', long: (r, z) => `The mount turns over at the meridian${when(r, z)}.` },
  OUTSIDE_DATES: {
    short: () => 'outside its dates',
    long: (r) => `This goal has its own dates, and tonight lies outside them.${origin(r)}`,
  },
  TWILIGHT: {
    short: (r) => `sun above ${deg(r.limit)}`,
    long: (r, z) => `Not dark enough${when(r, z)}: this goal waits for the sun at ${deg(r.limit)}.${origin(r)}`,
  },
  TOO_EARLY: {
    short: () => 'not before its hour',
    long: (r, z) => `This goal starts at ${clock(r.limit, z)} at the earliest.${origin(r)}`,
  },
  TOO_LATE: {
    short: () => 'after its hour',
    long: (r, z) => `This goal ends at ${clock(r.limit, z)} at the latest.${origin(r)}`,
  },
  TARGET_TOO_LOW: {
    short: (r) => `too low: ${deg(r.best)} at best`,
    long: (r, z) =>
      `The target stays below ${deg(r.limit)}${when(r, z)}; it reaches ${deg(r.best)} there at best.${origin(r)}`,
  },
  HOUR_ANGLE: {
    short: () => 'hour angle',
    long: (r, z) =>
      `The target is ${r.best?.toFixed(1)} h from the meridian at best${when(r, z)}; ${r.limit} h are allowed.${origin(r)}`,
  },
  NEAR_ZENITH: {
    short: () => 'too near the zenith',
    long: (r, z) => `The target passes within ${deg(r.limit)} of the zenith${when(r, z)}.${origin(r)}`,
  },
  MOON_UP: {
    short: () => 'moon is up',
    long: (r, z) =>
      `The Moon is at ${deg(r.best)} or higher${when(r, z)}; this goal wants it below ${deg(r.limit)}.${origin(r)}`,
  },
  MOON_TOO_NEAR: {
    short: (r) => `moon ${deg(r.worst)} away`,
    long: (r, z) =>
      `The moon is ${deg(r.worst)} to ${deg(r.best)} away${when(r, z)}; ${deg(r.limit)} is required while it is up and bright.${origin(r)}`,
  },
  MOONLIGHT: {
    short: (r) => `moonlight ${r.best?.toFixed(1)} mag`,
    long: (r, z) =>
      `The moon would brighten the sky in this filter by ${r.best?.toFixed(1)} to ${r.worst?.toFixed(1)} mag${when(r, z)}; this goal accepts ${r.limit?.toFixed(1)}.${origin(r)}`,
  },
  RATE_TOO_SMALL: {
    short: (r) => `signal rate ${percent(r.best ?? 0)} of its best`,
    long: (r, z) =>
      `An exposure would gather ${percent(r.best ?? 0)} of what this target and filter reach at their best${when(r, z)}; below ${percent(r.limit ?? 0)} the signal is too weak for the time it takes.${origin(r)}`,
  },
  NOT_GRANTED: { short: () => 'not granted', long: () => 'The project is not granted, so nothing of it is planned.' },
  RESTING: {
    short: () => 'resting',
    long: () => 'The project is resting. Everything is kept; switch resting off to plan it again.',
  },
  ENVELOPE_USED: {
    short: () => 'granted hours used',
    long: () =>
      'All hours that were granted to this project are used. Ask for more on the project’s page; everything gathered is kept.',
  },
  PAST_LAST_NIGHT: {
    short: () => 'past its last night',
    long: () =>
      'The last night that counts for this project is over, so nothing of it is planned. Move that night on the project’s page to go on; everything gathered is kept.',
  },
  FILTER_NOT_FITTED: {
    short: () => 'filter not fitted',
    long: () => 'The filter of this goal is not in the wheel now; a visit that fits it makes the goal possible.',
  },
  SWITCHED_OFF: { short: () => 'switched off', long: () => 'This goal is switched off; its exposures are kept.' },
  COMPLETE: { short: () => 'complete', long: () => 'Everything wanted of this goal has been taken.' },
  AWAITING_VERDICTS: {
    short: () => 'awaiting verdicts',
    long: (r) =>
      `Nothing is left to take tonight: ${r.best} undecided exposures are expected to do. The goal is not finished; rejecting some of them asks for more.`,
  },
  WITH_ANOTHER: {
    short: () => 'comes with a joined project',
    long: (r) => `Exposures are shared: all that it still wants is taken as ${r.rival}, and counts for both.`,
  },
  NO_POSITION: {
    short: () => 'no position',
    long: () => 'This panel has no position yet. No position is none, not zero: give it both coordinates.',
  },
  ANGLE_UNKNOWN: {
    short: () => 'camera angle unknown',
    long: () =>
      'The camera of this rig is turned by hand and its present angle was never measured. Enter it under Observatory.',
  },
  CAMERA_ANGLE: {
    short: (r) => `camera turned ${deg(r.worst)} away`,
    long: (r) =>
      `The camera is turned by hand and is ${deg(r.worst)} off this panel’s angle; up to ${deg(r.limit)} is tolerated. A visit to turn it would make this panel possible.`,
  },
  OTHER_PANEL: {
    short: () => 'another panel tonight',
    long: () => 'This project works on one panel a night, and tonight another of its panels is furthest along.',
  },
  LEFT_OUT_BY_HAND: {
    short: () => 'left out by hand',
    long: () => 'A coordinator left this panel out of this night by hand; other nights are not touched.',
  },
  HELD_BY_HAND: {
    short: () => 'held back by hand',
    long: () => 'The hours in which this could be exposed are closed to it by a hand change of this night.',
  },
  WINDOW_TOO_SHORT: {
    short: () => 'window too short',
    long: (r) => `The longest window is ${duration(r.best ?? 0)}; one exposure takes ${duration(r.limit ?? 0)}.`,
  },
  OUTBID: {
    short: ({ rival, worst, best }) => {
      if (!rival) return 'others gain more then';
      const numbers =
        worst !== null && best !== null && worst > best
          ? ` (${worst.toFixed(2)} against ${best.toFixed(2)} per hour)`
          : '';
      return `${rival} gains more then${numbers}`;
    },
    long: (r) =>
      `It could be exposed, but others gain more then. ${r.rival ?? 'What is planned instead'} gains ${r.worst?.toFixed(2)} per hour there from signal alone, this goal ${r.best?.toFixed(2)} at its best; balance, finishing and the time for changing targets count as well.`,
  },
};

const wordingOf = (reason: Reason): Wording => WORDINGS[reason.code] ?? never(reason.code);

/** A few words for a row. */
export const shortReason = (reason: Reason): string => wordingOf(reason).short(reason);
/** Whole sentences for the margin. */
export const longReason = (reason: Reason, zone: string): string => wordingOf(reason).long(reason, zone);
/** Codes that can be worded. */
export const WORDED_REASONS: readonly string[] = Object.keys(WORDINGS);
