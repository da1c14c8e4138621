// A project's rest given to another rig: where each of its filters has a recipe there, lengths scaled to gather the same light a pixel,
// counts to gather the same light in all.
import { angleApartDeg } from '../../framing/angle.ts';
import type { Detector } from '../../exposure/signal-rate.ts';
import { darkSkyElectronsPerSec } from '../../exposure/signal-rate.ts';
import type { NightRequest, RequestedGoal } from '../night/night-request.ts';
import type { SeasonRequest, SeasonRig } from './season-of-nights.ts';

/** How another rig reads its camera for a filter. */
export interface OtherRecipe {
  readonly binning: number;
  readonly readNoiseE: number;
}

/** Another rig whose field holds the project's. */
export interface OtherRig {
  readonly rigId: string;
  /** By filter. */
  readonly recipes: Readonly<Record<string, OtherRecipe>>;
}

const STEP_SEC = 5;
const [SHORTEST_SEC, LONGEST_SEC] = [5, 1800];

/** The season with what is left of a project on the other rig.
 * @returns null where the project is on no rig or on that one, shares exposures, lacks a recipe there, or its angle is not served */
export function movedToRig(request: SeasonRequest, projectId: string, other: OtherRig): SeasonRequest | null {
  const holds = ({ request: { projects } }: SeasonRig): boolean => projects.some(({ id }) => id === projectId);
  const [from, to] = [request.rigs.find(holds), request.rigs.find(({ rigId }) => rigId === other.rigId)];
  if (!from || !to || from === to) return null;
  const panels = from.request.panels.filter((panel) => panel.projectId === projectId);
  const own = new Set(panels.map(({ id }) => id));
  const goals = from.request.goals.filter(({ panelId }) => own.has(panelId));
  const isMapped = goals.every(({ filterId, sharedWith, comesWith }) => filterId in other.recipes && !sharedWith && !comesWith); // prettier-ignore
  if (goals.length === 0 || !isMapped || !panels.every((panel) => isServed(to.request, panel.positionAngleDeg))) return null; // prettier-ignore
  const moved = goals.map((goal) => scaled(goal, from.request, to.request, other.recipes[goal.filterId]));
  const changed = new Map([
    [from.rigId, without(from, projectId, own)],
    [to.rigId, withMoved(to, from, { projectId, panels, goals: moved })],
  ]);
  return { ...request, rigs: request.rigs.map((rig) => changed.get(rig.rigId) ?? rig) };
}

const isServed = ({ rig }: NightRequest, angleDeg: number): boolean =>
  rig.rotatorKind === 'motor' ||
  (rig.skyAngleDeg !== null && angleApartDeg(angleDeg, rig.skyAngleDeg) <= rig.angleToleranceDeg);

/** Light that a rig gathers, whatever its pixels. */
const gathers = ({ apertureMm, obstructionShare, throughput }: NightRequest['rig']['detector']): number =>
  apertureMm ** 2 * (1 - obstructionShare ** 2) * throughput;

function scaled(goal: RequestedGoal, from: NightRequest, to: NightRequest, recipe: OtherRecipe): RequestedGoal {
  const filter = from.filters.find(({ id }) => id === goal.filterId)!;
  const perPixel = (detector: NightRequest['rig']['detector'], read: OtherRecipe): number =>
    darkSkyElectronsPerSec(filter, { ...detector, ...read } as Detector);
  const { exposureSec: wasSec } = goal.settings;
  const alike = (wasSec * perPixel(from.rig.detector, goal)) / perPixel(to.rig.detector, recipe);
  const exposureSec = Math.min(LONGEST_SEC, Math.max(SHORTEST_SEC, STEP_SEC * Math.round(alike / STEP_SEC)));
  const times = (wasSec * gathers(from.rig.detector)) / gathers(to.rig.detector) / exposureSec;
  return {
    ...goal,
    ...recipe,
    settings: { ...goal.settings, exposureSec },
    toPlan: Math.ceil(goal.toPlan * times - 1e-9),
    done: goal.done * times,
    wanted: goal.wanted === null ? null : goal.wanted * times,
  };
}

const BY_PROJECT = ['acceptance', 'lastNight', 'decayNights', 'envelopeHours'] as const;

function without(rig: SeasonRig, projectId: string, panels: ReadonlySet<string>): SeasonRig {
  const { request } = rig;
  return {
    ...rig,
    request: {
      ...request,
      projects: request.projects.filter(({ id }) => id !== projectId),
      panels: request.panels.filter(({ id }) => !panels.has(id)),
      goals: request.goals.filter(({ panelId }) => !panels.has(panelId)),
    },
  };
}

type Moved = Pick<NightRequest, 'panels' | 'goals'> & { readonly projectId: string };

/** With what the project was given where it comes from: its last night, its grant, how many of its exposures are accepted. */
function withMoved(rig: SeasonRig, from: SeasonRig, { projectId, panels, goals }: Moved): SeasonRig {
  const { request } = rig;
  const given = BY_PROJECT.flatMap((field) => {
    const value = (from[field] as Readonly<Record<string, unknown>> | undefined)?.[projectId];
    return value === undefined ? [] : [[field, { ...rig[field], [projectId]: value }]];
  });
  return {
    ...rig,
    ...Object.fromEntries(given),
    request: {
      ...request,
      projects: [...request.projects, ...from.request.projects.filter(({ id }) => id === projectId)],
      panels: [...request.panels, ...panels],
      goals: [...request.goals, ...goals],
    },
  };
}
