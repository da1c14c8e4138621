// What a limit costs: hours in which a goal could be exposed, night by night, with the limit, without it, and as somebody proposes it.
import type { NightRequest } from '../night/night-request.ts';
import { surveyNight } from '../night/survey.ts';
import type { Interval, ObservingNight } from '../../time/nights.ts';
import type { LimitKey } from '../../limits/limit-table.ts';
import { windowHours } from '../../limits/windows.ts';

/** Samples of a night when many nights are looked at, seconds. */
const COARSE_STEP_SEC = 300;

export interface LimitNight {
  readonly nightDate: string;
  readonly hours: number;
  readonly hoursWithout: number;
  readonly hoursProposed: number;
}

export interface LimitCost {
  readonly nights: readonly LimitNight[];
  /** The first night's windows. */
  readonly windows: readonly Interval[];
  readonly windowsWithout: readonly Interval[];
  readonly windowsProposed: readonly Interval[];
}

/** @param request one goal, the limits that are stored
 * @param proposed the value as somebody proposes it; null = off, undefined = as it is */
export function limitCost(
  request: NightRequest,
  nights: readonly ObservingNight[],
  key: LimitKey,
  proposed: number | null | undefined,
): LimitCost {
  const windowsOn = (night: ObservingNight, value: number | null | undefined, stepSec?: number): readonly Interval[] =>
    surveyNight(withLimit({ ...request, night, fromUtcMs: null }, key, value), stepSec)?.goals[0].windows ?? [];
  const rows = nights.map((night): LimitNight => {
    const hoursAt = (value: number | null | undefined): number => windowHours(windowsOn(night, value, COARSE_STEP_SEC));
    const hours = hoursAt(undefined);
    return {
      nightDate: night.nightDate,
      hours,
      hoursWithout: hoursAt(null),
      hoursProposed: proposed === undefined ? hours : hoursAt(proposed),
    };
  });
  const windows = windowsOn(nights[0], undefined);
  return {
    nights: rows,
    windows,
    windowsWithout: windowsOn(nights[0], null),
    windowsProposed: proposed === undefined ? windows : windowsOn(nights[0], proposed),
  };
}

/** The request with a limit set on its goals, above all that is stored; as it is where the value is undefined. */
function withLimit(request: NightRequest, key: LimitKey, value: number | null | undefined): NightRequest {
  if (value === undefined) return request;
  return {
    ...request,
    goals: request.goals.map((goal) => ({
      ...goal,
      limits: [...goal.limits.filter((limit) => limit.key !== key), { scope: 'goal', class: null, key, value }],
    })),
  };
}

/** Seconds in which each goal of a request meets every limit, night by night. */
export const usableSecByNight = (request: NightRequest, nights: readonly ObservingNight[]): number[][] =>
  nights.map((night) =>
    (surveyNight({ ...request, night, fromUtcMs: null }, COARSE_STEP_SEC)?.goals ?? request.goals.map(() => null)).map(
      (goal) => (goal && !goal.blocked ? windowHours(goal.windows) * 3600 : 0),
    ),
  );
