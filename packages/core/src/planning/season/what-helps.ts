// What would help a project that can't be finished: each change worked out as a season of its own, none guessed.
import { angleApartDeg } from '../../framing/angle.ts';
import type { StoredLimit } from '../../limits/limit-values.ts';
import { limitsInForce } from '../../limits/limit-values.ts';
import type { LimitKey } from '../../limits/limit-table.ts';
import type { KeptSkies } from './kept-skies.ts';
import type { OtherRig } from './other-rig.ts';
import { movedToRig } from './other-rig.ts';
import type { ProjectForecast, SeasonOptions } from './season-outlook.ts';
import { seasonOutlook } from './season-outlook.ts';
import type { SeasonRequest, SeasonRig } from './season-of-nights.ts';

/** Changes that are tried, one at a time. */
export const HELPS = [
  'putFirst',
  'lowerAltitude',
  'moreMoonlight',
  'lessSignal',
  'moreHours',
  'noDeadline',
  'noClosures',
  'turnCamera',
  'rigAlone',
  'otherRig',
] as const;
export type HelpKey = (typeof HELPS)[number];

/** How far limits are loosened. */
export const LOWER_ALTITUDE_DEG = 5;
export const MORE_MOONLIGHT_MAG = 0.5;
export const LESS_SIGNAL_SHARE = 0.1;
/** Weight of a project that is put before all others. */
const FIRST = 4;

export interface Help {
  readonly key: HelpKey;
  /** The other rig that it would be on; null for every other change. */
  readonly rigId: string | null;
  readonly forecast: ProjectForecast;
}

export interface WhatHelps {
  readonly asIs: ProjectForecast;
  /** Changes under which more of the seasons finish it or more of it is expected, the best first. */
  readonly helps: readonly Help[];
  /** Changes that were tried and help nothing worth the words. */
  readonly useless: readonly HelpKey[];
}

/** Of seasons that finish it, and of hours expected: less is no help. */
const LEAST_SHARE = 0.05;
const LEAST_HOURS = 0.5;

interface Tried {
  readonly key: HelpKey;
  readonly rigId: string | null;
  readonly changed: SeasonRequest;
}

const triedHere = (request: SeasonRequest, projectId: string): Tried[] =>
  HELPS.flatMap((key) => {
    const changed = seasonWith(request, projectId, key);
    return changed ? [{ key, rigId: null, changed }] : [];
  });

const triedElsewhere = (request: SeasonRequest, projectId: string, others: readonly OtherRig[]): Tried[] =>
  others.flatMap((other) => {
    const changed = movedToRig(request, projectId, other);
    return changed ? [{ key: 'otherRig' as const, rigId: other.rigId, changed }] : [];
  });

/** Plans and plays the season as it is and once for each change.
 * @param others rigs whose field holds the project's
 * @returns null where it was stopped */
export function whatHelps(
  request: SeasonRequest,
  projectId: string,
  options: SeasonOptions,
  onProgress: (share: number) => boolean = () => false,
  others: readonly OtherRig[] = [],
): WhatHelps | null {
  const tried = [...triedHere(request, projectId), ...triedElsewhere(request, projectId, others)];
  const forecasts: ProjectForecast[] = [];
  const kept: KeptSkies = new Map();
  for (const [i, season] of [request, ...tried.map(({ changed }) => changed)].entries()) {
    const told = (share: number): boolean => onProgress((i + share) / (tried.length + 1));
    const found = seasonOutlook(season, { ...options, boundRounds: 0 }, told, kept);
    if (!found) return null;
    forecasts.push(found.projects.find((project) => project.projectId === projectId)!);
  }
  const [asIs, ...found] = forecasts;
  const gain = ({ key, forecast }: Help): number =>
    forecast.finishedShare - asIs.finishedShare + (key === 'otherRig' ? 0 : (forecast.expectedHours - asIs.expectedHours) / 1000); // prettier-ignore
  const helps = tried
    .map(({ key, rigId }, i): Help => ({ key, rigId, forecast: found[i] }))
    .filter(
      ({ key, forecast }) =>
        forecast.finishedShare - asIs.finishedShare >= LEAST_SHARE ||
        // Hours of another rig are other hours.
        (key !== 'otherRig' && forecast.expectedHours - asIs.expectedHours >= LEAST_HOURS),
    )
    .toSorted((a, b) => gain(b) - gain(a));
  const useful = new Set(helps.map(({ key }) => key));
  const useless = [...new Set(tried.map(({ key }) => key))].filter((key) => !useful.has(key));
  return { asIs, helps, useless };
}

/** The season with one change; null where there is nothing to change. */
export function seasonWith(request: SeasonRequest, projectId: string, key: HelpKey): SeasonRequest | null {
  const own = request.rigs.findIndex((rig) => rig.request.projects.some(({ id }) => id === projectId));
  if (own < 0) return null;
  const changed = rigWith(request.rigs[own], projectId, key);
  return changed && { ...request, rigs: request.rigs.map((rig, r) => (r === own ? changed : rig)) };
}

function rigWith(rig: SeasonRig, projectId: string, key: HelpKey): SeasonRig | null {
  switch (key) {
    case 'putFirst':
      return withProjects(rig, (projects) => projects.map((p) => (p.id === projectId ? { ...p, weight: FIRST * p.weight } : p))); // prettier-ignore
    case 'lowerAltitude':
      return loosened(rig, projectId, 'minAltitudeDeg', (value) => Math.max(0, value - LOWER_ALTITUDE_DEG));
    case 'moreMoonlight':
      return loosened(rig, projectId, 'moonlightToleranceMag', (value) => value + MORE_MOONLIGHT_MAG);
    case 'lessSignal':
      return loosened(rig, projectId, 'minRateShare', (value) => Math.max(0.05, value - LESS_SIGNAL_SHARE));
    case 'moreHours':
      return without(rig, 'envelopeHours', projectId);
    case 'noDeadline':
      return without(rig, 'lastNight', projectId);
    case 'noClosures':
      return (rig.closed ?? []).length > 0 ? { ...rig, closed: [] } : null;
    case 'turnCamera':
      return turned(rig, projectId);
    case 'rigAlone':
      return rig.request.projects.length > 1 ? alone(rig, projectId) : null;
    case 'otherRig':
      return null;
  }
}

const withProjects = (
  rig: SeasonRig,
  change: (projects: SeasonRig['request']['projects']) => SeasonRig['request']['projects'],
): SeasonRig => ({ ...rig, request: { ...rig.request, projects: change(rig.request.projects) } });

function without(rig: SeasonRig, field: 'envelopeHours' | 'lastNight', projectId: string): SeasonRig | null {
  const held: Readonly<Record<string, unknown>> = rig[field] ?? {};
  if (!(projectId in held)) return null;
  return { ...rig, [field]: Object.fromEntries(Object.entries(held).filter(([id]) => id !== projectId)) };
}

function alone(rig: SeasonRig, projectId: string): SeasonRig {
  const { request } = rig;
  const panels = request.panels.filter((panel) => panel.projectId === projectId);
  const ids = new Set(panels.map(({ id }) => id));
  return {
    ...rig,
    request: {
      ...request,
      projects: request.projects.filter(({ id }) => id === projectId),
      panels,
      goals: request.goals.filter(({ panelId }) => ids.has(panelId)),
    },
  };
}

/** The rig as a visit would leave it, its camera at the project's angle; null where it serves that already. */
function turned(rig: SeasonRig, projectId: string): SeasonRig | null {
  const { rig: optics, panels } = rig.request;
  const angle = panels.find((panel) => panel.projectId === projectId)?.positionAngleDeg;
  if (optics.rotatorKind === 'motor' || angle === undefined) return null;
  const isServed = optics.skyAngleDeg !== null && angleApartDeg(angle, optics.skyAngleDeg) <= optics.angleToleranceDeg;
  return isServed ? null : { ...rig, request: { ...rig.request, rig: { ...optics, skyAngleDeg: angle } } };
}

/** A limit changed for each of the project's goals, from whatever holds there now; null where it is off everywhere. */
function loosened(
  rig: SeasonRig,
  projectId: string,
  key: LimitKey,
  change: (value: number) => number,
): SeasonRig | null {
  const { request } = rig;
  const project = request.projects.find(({ id }) => id === projectId)!;
  const panels = new Set(request.panels.flatMap((panel) => (panel.projectId === projectId ? [panel.id] : [])));
  const classOf = new Map(request.filters.map((filter) => [filter.id, filter.class]));
  let isChanged = false;
  const goals = request.goals.map((goal) => {
    if (!panels.has(goal.panelId)) return goal;
    const stored = [...goal.limits, ...project.limits, ...request.observatoryLimits];
    const { value } = limitsInForce(stored, classOf.get(goal.filterId)!)[key];
    if (value === null || change(value) === value) return goal;
    isChanged = true;
    const own: StoredLimit = { scope: 'goal', class: null, key, value: change(value) };
    return { ...goal, limits: [own, ...goal.limits.filter((limit) => limit.key !== key)] };
  });
  return isChanged ? { ...rig, request: { ...request, goals } } : null;
}
