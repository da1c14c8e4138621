// Goals' skies looked at once for seasons that differ in what a survey doesn't see: weights, grants, last nights, closed nights, the camera's angle.
import type { NightRequest, RequestedGoal } from '../night/night-request.ts';
import type { NightSurvey } from '../night/survey.ts';
import { surveyNight } from '../night/survey.ts';

type SurveyedGoal = NightSurvey['goals'][number];
interface KeptNight {
  readonly table: NightSurvey['table'];
  readonly goals: Map<RequestedGoal, SurveyedGoal>;
}

/** By rig and night; null where the sun doesn't set. Goals are known by identity: one with another limit is another goal. Site, horizon, bounds, the rig's optics and the limits above the goals' own must be the same. */
export type KeptSkies = Map<string, KeptNight | null>;

/** The survey of a night, of which only goals that nobody has looked at are surveyed. */
export function keptSurvey(
  kept: KeptSkies | undefined,
  rigId: string,
  request: NightRequest,
  stepSec: number,
): NightSurvey | null {
  if (!kept) return surveyNight(request, stepSec);
  const key = `${rigId} ${request.night.nightDate}`;
  const known = kept.get(key);
  if (known === null) return null;
  const missing = request.goals.filter((goal) => !known?.goals.has(goal));
  const fresh = known && missing.length === 0 ? null : surveyNight({ ...request, goals: missing }, stepSec);
  if (!known && !fresh) {
    kept.set(key, null);
    return null;
  }
  const night = known ?? { table: fresh!.table, goals: new Map<RequestedGoal, SurveyedGoal>() };
  fresh?.goals.forEach((goal, i) => night.goals.set(missing[i], goal));
  kept.set(key, night);
  return { table: night.table, goals: request.goals.map((goal) => night.goals.get(goal)!) };
}
