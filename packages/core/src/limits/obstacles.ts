// The rules a moment must pass before a goal may be exposed, each able to say by how much it passes or fails.
import type { HorizonProfile } from '../sky/horizon.ts';
import { horizonAltitudeDeg } from '../sky/horizon.ts';
import type { SunPassage } from '../sky/events.ts';
import { RISE_SET_ALTITUDE_DEG } from '../sky/sun-moon.ts';
import type { Interval } from '../time/nights.ts';
import type { UtcMs } from '../units.ts';
import { MINUTE_MS } from '../units.ts';
import type { Bounds, LimitOrigin, LimitsInForce } from './limit-values.ts';

/** What a rule looks at: one target and filter at one moment. */
export interface Circumstances {
  readonly utcMs: UtcMs;
  readonly altitudeDeg: number;
  readonly azimuthDeg: number;
  /** Positive west, [−180, 180). */
  readonly hourAngleDeg: number;
  readonly sunAltitudeDeg: number;
  readonly moonAltitudeDeg: number;
  readonly moonSeparationDeg: number;
  /** Brightening of the sky by the moon in this filter. */
  readonly moonBrighteningMag: number;
  /** Signal rate over the target's own best, [0, …). */
  readonly rateShare: number;
}

export const OBSTACLE_CODES = [
  'SUN_BOUND',
  'BELOW_HORIZON',
  'BELOW_MOUNT',
  'ZENITH_HOLE',
  'MERIDIAN_FLIP',
  'OUTSIDE_DATES',
  'TWILIGHT',
  'TOO_EARLY',
  'TOO_LATE',
  'TARGET_TOO_LOW',
  'HOUR_ANGLE',
  'NEAR_ZENITH',
  'MOON_UP',
  'MOON_TOO_NEAR',
  'MOONLIGHT',
  'RATE_TOO_SMALL',
] as const;
export type ObstacleCode = (typeof OBSTACLE_CODES)[number];

/** One rule in force. The margin is 0 or more where it passes, in the rule's own unit. */
export interface Rule {
  readonly code: ObstacleCode;
  readonly origin: LimitOrigin | 'bound';
  readonly limit: number;
  readonly margin: (at: Circumstances) => number;
  /** The number to hold against the limit when it fails. */
  readonly actual: (at: Circumstances) => number;
}

/** What the rules of one goal are made from. */
export interface RuleContext {
  readonly night: Interval;
  /** Days since 1970-01-01 of the night's evening date. */
  readonly nightDay: number;
  readonly limits: LimitsInForce;
  readonly bounds: Bounds;
  readonly horizon: HorizonProfile;
  readonly moonIlluminatedShare: number;
  /** Passage of the limit's own sun altitude. */
  readonly sunPassage: SunPassage;
  /** Clock limits as moments of this night. */
  readonly notBeforeUtcMs: UtcMs | null;
  readonly notAfterUtcMs: UtcMs | null;
  /** Stretches in which a German equatorial mount can't follow the target over the meridian. */
  readonly flipBlackouts: readonly Interval[];
}

/** The rules in force, bounds first: the first that fails is the reason given. */
export function rulesFor(context: RuleContext): Rule[] {
  return [
    ...boundRules(context),
    ...timeRules(context),
    ...pointingRules(context),
    ...moonRules(context),
    ...rateRules(context),
  ];
}

function boundRules({ bounds, horizon, limits, flipBlackouts }: RuleContext): Rule[] {
  const marginDeg = limits.horizonMarginDeg.value ?? 0;
  const overHorizon = (at: Circumstances): number => at.altitudeDeg - horizonAltitudeDeg(horizon, at.azimuthDeg);
  const rules: Rule[] = [
    rule('SUN_BOUND', 'bound', bounds.sunAltitudeMaxDeg, (at) => at.sunAltitudeDeg, 'atMost'),
    rule('BELOW_MOUNT', 'bound', bounds.mountAltitudeMinDeg, (at) => at.altitudeDeg, 'atLeast'),
    rule('BELOW_HORIZON', limits.horizonMarginDeg.origin, marginDeg, overHorizon, 'atLeast'),
  ];
  if (bounds.mountZenithHoleDeg > 0)
    rules.push(rule('ZENITH_HOLE', 'bound', bounds.mountZenithHoleDeg, zenithDistance, 'atLeast'));
  for (const blackout of flipBlackouts) rules.push(blackoutRule(blackout));
  return rules;
}

function timeRules({ limits, nightDay, sunPassage, night, notBeforeUtcMs, notAfterUtcMs }: RuleContext): Rule[] {
  const rules: Rule[] = [];
  const day = (): number => nightDay;
  pushIfSet(rules, 'OUTSIDE_DATES', limits.firstNightDay, day, 'atLeast');
  pushIfSet(rules, 'OUTSIDE_DATES', limits.lastNightDay, day, 'atMost');
  rules.push(...twilightRules(limits, sunPassage, night));
  const clock = (code: ObstacleCode, utcMs: UtcMs | null, origin: LimitOrigin, way: Way): void => {
    if (utcMs !== null) rules.push(rule(code, origin, utcMs, (at) => at.utcMs, way));
  };
  clock('TOO_EARLY', notBeforeUtcMs, limits.notBeforeClockMin.origin, 'atLeast');
  clock('TOO_LATE', notAfterUtcMs, limits.notAfterClockMin.origin, 'atMost');
  return rules;
}

/** Sun depth with minutes after dusk and before dawn; negative minutes widen, so the passage times decide, not the depth itself. */
function twilightRules(limits: LimitsInForce, passage: SunPassage, night: Interval): Rule[] {
  const { value, origin } = limits.sunAltitudeMaxDeg;
  if (value === null) return [];
  const shifted = limits.afterDuskMin.value !== null || limits.beforeDawnMin.value !== null;
  if (!shifted || passage.duskUtcMs === null || passage.dawnUtcMs === null) {
    return [rule('TWILIGHT', origin, value, (at) => at.sunAltitudeDeg, 'atMost')];
  }
  const from = Math.max(night.startUtcMs, passage.duskUtcMs + (limits.afterDuskMin.value ?? 0) * MINUTE_MS);
  const to = Math.min(night.endUtcMs, passage.dawnUtcMs - (limits.beforeDawnMin.value ?? 0) * MINUTE_MS);
  return [
    {
      code: 'TWILIGHT',
      origin,
      limit: value,
      actual: (at) => at.sunAltitudeDeg,
      margin: (at) => Math.min(at.utcMs - from, to - at.utcMs),
    },
  ];
}

function pointingRules({ limits }: RuleContext): Rule[] {
  const rules: Rule[] = [];
  pushIfSet(rules, 'TARGET_TOO_LOW', limits.minAltitudeDeg, (at) => at.altitudeDeg, 'atLeast');
  pushIfSet(rules, 'HOUR_ANGLE', limits.hourAngleMaxHours, (at) => Math.abs(at.hourAngleDeg) / 15, 'atMost');
  pushIfSet(rules, 'NEAR_ZENITH', limits.zenithKeepOutDeg, zenithDistance, 'atLeast');
  return rules;
}

function moonRules({ limits, moonIlluminatedShare }: RuleContext): Rule[] {
  const rules: Rule[] = [];
  pushIfSet(rules, 'MOON_UP', limits.moonAltitudeMaxDeg, (at) => at.moonAltitudeDeg, 'atMost');
  const bright = moonIlluminatedShare >= (limits.moonLitShareMin.value ?? 0);
  const separation = limits.moonSeparationMinDeg;
  if (bright && separation.value !== null) {
    const apart = rule('MOON_TOO_NEAR', separation.origin, separation.value, (at) => at.moonSeparationDeg, 'atLeast');
    rules.push({ ...apart, margin: (at) => Math.max(apart.margin(at), RISE_SET_ALTITUDE_DEG - at.moonAltitudeDeg) });
  }
  pushIfSet(rules, 'MOONLIGHT', limits.moonlightToleranceMag, (at) => at.moonBrighteningMag, 'atMost');
  return rules;
}

function rateRules({ limits }: RuleContext): Rule[] {
  const rules: Rule[] = [];
  pushIfSet(rules, 'RATE_TOO_SMALL', limits.minRateShare, (at) => at.rateShare, 'atLeast');
  return rules;
}

function blackoutRule({ startUtcMs, endUtcMs }: Interval): Rule {
  const middle = (startUtcMs + endUtcMs) / 2;
  const half = (endUtcMs - startUtcMs) / 2;
  return {
    code: 'MERIDIAN_FLIP',
    origin: 'bound',
    limit: half / MINUTE_MS,
    actual: (at) => at.hourAngleDeg / 15,
    margin: (at) => Math.abs(at.utcMs - middle) - half,
  };
}

type Way = 'atLeast' | 'atMost';

function rule(code: ObstacleCode, origin: Rule['origin'], limit: number, actual: Rule['actual'], way: Way): Rule {
  const sign = way === 'atLeast' ? 1 : -1;
  return { code, origin, limit, actual, margin: (at) => sign * (actual(at) - limit) };
}

function pushIfSet(
  rules: Rule[],
  code: ObstacleCode,
  limit: { value: number | null; origin: LimitOrigin },
  actual: Rule['actual'],
  way: Way,
): void {
  if (limit.value !== null) rules.push(rule(code, limit.origin, limit.value, actual, way));
}

const zenithDistance = (at: Circumstances): number => 90 - at.altitudeDeg;
