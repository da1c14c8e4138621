// The nights ahead of an observatory's rigs, turned into one season's problem: skies sampled slot by slot, counts as what will be taken rather than accepted.
import { exposureCycleSec, filterChangeSec, panelChangeSec } from '../../exposure/time-cost.ts';
import { darkIntervals } from '../../sky/events.ts';
import { RISE_SET_ALTITUDE_DEG } from '../../sky/sun-moon.ts';
import type { ObservingNight } from '../../time/nights.ts';
import type { NightRequest, RequestedGoal } from '../night/night-request.ts';
import type { ObjectiveWeights } from '../night/night-problem.ts';
import { DEFAULT_OBJECTIVE_WEIGHTS } from '../night/night-problem.ts';
import { countsOn } from '../last-night.ts';
import type { SeasonShares } from './fair-season.ts';
import type { KeptSkies } from './kept-skies.ts';
import { keptSurvey } from './kept-skies.ts';
import type { SeasonVisit, VisitedRig } from './rig-visits.ts';
import { servedOn } from './rig-visits.ts';
import type { SeasonGoal, SeasonLane, SeasonProblem } from './season-problem.ts';

export const SEASON_SLOT_SEC = 300;
const NIGHT_SUN_ALTITUDE_DEG = -18;
/** What a night's light loses against the night before's: of two nights as good, the earlier one is taken, and a later one only where it is better by more. */
const LATER_LOSES = 0.003;

/** What the light of a season's night counts. */
export const worthOfNight = (night: number): number => (1 - LATER_LOSES) ** night;

/** A rig with the projects that are framed for it; of the request the night is ignored. */
export interface SeasonRig {
  readonly rigId: string;
  readonly request: NightRequest;
  /** Share of a project's exposures that are accepted, by project. */
  readonly acceptance: Readonly<Record<string, number>>;
  /** The last night that counts for a project, as yyyy-mm-dd. */
  readonly lastNight?: Readonly<Record<string, string>>;
  /** Nights after it until nothing counts any more, by project; nothing at once where left out. */
  readonly decayNights?: Readonly<Record<string, number>>;
  /** Nights on which the rig is closed. */
  readonly closed?: readonly string[];
  /** Clock hours that a project's grant still holds without the moon and with it, by project; no bound where left out. */
  readonly envelopeHours?: Readonly<Record<string, EnvelopeHours>>;
  /** Filters of the request that are not in the wheel. */
  readonly notFitted?: readonly string[];
  /** Visits that are planned: what they change holds in the season only. */
  readonly visits?: readonly SeasonVisit[];
}

export interface EnvelopeHours {
  readonly dark: number;
  readonly bright: number;
}

export interface SeasonNight {
  readonly night: ObservingNight;
  /** Odds that it is clear. */
  readonly odds: number;
}

export interface SeasonRequest {
  /** Whose the projects are and what each may have; nobody's hours count more than another's where left out. */
  readonly shares?: SeasonShares;
  readonly rigs: readonly SeasonRig[];
  readonly nights: readonly SeasonNight[];
}

/** A season's problem, with what its indices stand for. */
export interface NamedSeason {
  readonly problem: SeasonProblem;
  readonly goalIds: readonly string[];
  readonly panelIds: readonly string[];
  readonly projectIds: readonly string[];
  readonly lanes: readonly NamedLane[];
}

export interface NamedLane {
  readonly nightDate: string;
  readonly rigId: string;
  readonly odds: number;
  /** Beginning of slot 0; null where the sun doesn't set or the night is closed. */
  readonly startUtcMs: number | null;
  readonly endUtcMs: number | null;
  /** Hours with the sun low enough, and those of them with the moon down. */
  readonly darkHours: number;
  readonly moonlessHours: number;
}

/** Surveys every night for every rig.
 * @param onProgress gets the share that is done; says whether to stop
 * @param kept what has been looked at for seasons like it, and will be */
export function seasonOfNights(
  { rigs, nights }: SeasonRequest,
  onProgress: (share: number) => boolean = () => false,
  kept?: KeptSkies,
): NamedSeason {
  const weights = DEFAULT_OBJECTIVE_WEIGHTS;
  const parts = rigs.map((rig, r) =>
    sorted(
      rig,
      rigs.slice(0, r).reduce((sum, { request }) => sum + request.filters.length, 0),
    ),
  );
  const goals = parts.flatMap(({ goals: own }) => own);
  const panels = parts.flatMap(({ panels: own }) => own);
  const projects = parts.flatMap(({ request }) => request.projects);
  const indices = { panel: indexOf(panels), project: indexOf(projects) };
  const rowsBefore = parts.map((_, r) => parts.slice(0, r).reduce((sum, part) => sum + part.goals.length, 0));
  const lanes: NamedLane[] = [];
  const skies: SeasonLane[] = [];
  nights.forEach(({ night, odds }, n) => {
    if (onProgress(n / nights.length)) return;
    parts.forEach((part, r) => {
      const { named, lane } = laneOf({
        part,
        night,
        odds,
        index: n,
        rig: r,
        rows: goals.length,
        firstRow: rowsBefore[r],
        kept,
      });
      lanes.push(named);
      skies.push(lane);
    });
  });
  const weightOf = (panelId: string): number =>
    projects.find(({ id }) => id === panels.find((panel) => panel.id === panelId)!.projectId)!.weight;
  return {
    problem: {
      slotSec: SEASON_SLOT_SEC,
      goals: parts
        .flatMap((part) => part.goals.map((goal) => seasonGoal(part, goal, weightOf(goal.panelId), weights)))
        .map((goal, row) => ({ ...goal, row, panel: indices.panel.get(goals[row].panelId)! })),
      panels: panels.map(({ id, projectId }) => ({
        project: indices.project.get(projectId)!,
        balance: weights.balance * weightOf(id) * hoursOf(goals.filter(({ panelId }) => panelId === id)),
      })),
      projects: parts.flatMap((part) =>
        part.request.projects.map(({ id, weight }) => ({
          bonus: bonusOf(id, weight * weights.completion, panels, goals),
          ...envelopeOf(part, id),
        })),
      ),
      lanes: skies,
      ...changes(parts, panels.length),
    },
    goalIds: goals.map(({ id }) => id),
    panelIds: panels.map(({ id }) => id),
    projectIds: projects.map(({ id }) => id),
    lanes,
  };
}

const envelopeOf = ({ envelopeHours = {} }: SeasonRig, projectId: string) => {
  const hours = envelopeHours[projectId];
  return hours ? { envelopeSec: { dark: 3600 * hours.dark, bright: 3600 * hours.bright } } : {};
};

const indexOf = (rows: readonly { readonly id: string }[]): Map<string, number> =>
  new Map(rows.map(({ id }, i) => [id, i]));

interface RigPart extends SeasonRig {
  readonly panels: NightRequest['panels'];
  readonly goals: readonly RequestedGoal[];
  /** Filters of the rigs before. */
  readonly firstFilter: number;
}

/** Panels by project and goals by panel, as a season's problem wants them. */
function sorted(rig: SeasonRig, firstFilter: number): RigPart {
  const { projects, panels, goals } = rig.request;
  const ownPanels = projects.flatMap(({ id }) => panels.filter(({ projectId }) => projectId === id));
  const ownGoals = ownPanels.flatMap(({ id }) => goals.filter(({ panelId }) => panelId === id));
  return { ...rig, panels: ownPanels, goals: ownGoals, firstFilter };
}

type Surveyed = NonNullable<ReturnType<typeof keptSurvey>>['table'];

interface LaneParts {
  readonly part: RigPart;
  readonly night: ObservingNight;
  readonly odds: number;
  readonly index: number;
  readonly rig: number;
  readonly rows: number;
  readonly firstRow: number;
  readonly kept: KeptSkies | undefined;
}

function laneOf({ part, night, odds, index, rig, rows, firstRow, kept }: LaneParts): {
  named: NamedLane;
  lane: SeasonLane;
} {
  const { request, rigId, goals, panels } = part;
  const isClosed = odds <= 0 || (part.closed ?? []).includes(night.nightDate);
  const survey = isClosed ? null : keptSurvey(kept, rigId, surveyedRequest(request, goals, night), SEASON_SLOT_SEC);
  const slots = survey ? survey.table.length - 1 : 0;
  const rates = new Float32Array(rows * slots);
  const isServed = servedOn(visited(part), night.nightDate);
  const angleOf = new Map(panels.map((panel) => [panel.id, panel.positionAngleDeg]));
  survey?.goals.forEach(({ windows, rateShare, blocked }, g) => {
    const counts = counted(part, goals[g], night.nightDate);
    if (blocked || counts <= 0) return;
    if (!isServed(angleOf.get(goals[g].panelId)!, goals[g].filterId)) return;
    for (const { startUtcMs, endUtcMs } of windows) {
      const from = Math.ceil((startUtcMs - survey.table.startUtcMs) / 1000 / SEASON_SLOT_SEC - 1e-6);
      const to = Math.min(slots, Math.floor((endUtcMs - survey.table.startUtcMs) / 1000 / SEASON_SLOT_SEC + 1e-6));
      for (let slot = Math.max(0, from); slot < to; slot++)
        rates[(firstRow + g) * slots + slot] =
          (counts * worthOfNight(index) * (rateShare[slot] + rateShare[slot + 1])) / 2;
    }
  });
  const dark = darkIntervals(request.site, night, NIGHT_SUN_ALTITUDE_DEG);
  const named = {
    nightDate: night.nightDate,
    rigId,
    odds: isClosed ? 0 : odds,
    startUtcMs: survey?.table.startUtcMs ?? null,
    endUtcMs: survey ? survey.table.startUtcMs + slots * SEASON_SLOT_SEC * 1000 : null,
    darkHours: dark.reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / 3_600_000, 0),
    moonlessHours: survey ? moonlessHours(survey.table, dark) : 0,
  };
  const moonlit = survey ? moonlitSlots(survey.table, slots) : new Uint8Array(0);
  return { named, lane: { night: index, rig, slots, rates, odds: odds > 0 ? odds : 1, moonlit } };
}

/** A night of the season as it is surveyed: for every angle, since what the camera serves is settled night by night, by the visits; and with every panel, since one panel a night is settled when the night comes. */
export const surveyedRequest = (
  request: NightRequest,
  goals: readonly RequestedGoal[],
  night: ObservingNight,
): NightRequest => ({
  ...request,
  rig: { ...request.rig, rotatorKind: 'motor' },
  projects: request.projects.map((project) => ({ ...project, panelOrder: 'free' as const })),
  goals,
  night,
  fromUtcMs: null,
});

/** A rig of a season as visits see it. */
export const visited = ({ request, notFitted = [], visits = [] }: SeasonRig): VisitedRig => ({
  rig: request.rig,
  notFitted,
  visits,
});

/** Slots in whose middle the moon is up. */
const moonlitSlots = ({ moonAltitudeDeg }: Surveyed, slots: number): Uint8Array =>
  Uint8Array.from({ length: slots }, (_, slot) =>
    Number(moonAltitudeDeg[slot] + moonAltitudeDeg[slot + 1] > 2 * RISE_SET_ALTITUDE_DEG),
  );

/** What a goal's light counts in a night, by the last night of its project. */
function counted(
  { request, lastNight = {}, decayNights = {} }: RigPart,
  { panelId }: RequestedGoal,
  nightDate: string,
): number {
  const { projectId } = request.panels.find(({ id }) => id === panelId)!;
  return countsOn(nightDate, { lastNight: lastNight[projectId] ?? null, decayNights: decayNights[projectId] ?? null });
}

function moonlessHours(
  { moonAltitudeDeg, startUtcMs, stepMs, length }: Surveyed,
  dark: ReturnType<typeof darkIntervals>,
): number {
  let samples = 0;
  for (let i = 0; i < length; i++) {
    const utcMs = startUtcMs + i * stepMs;
    if (moonAltitudeDeg[i] < RISE_SET_ALTITUDE_DEG && dark.some((d) => utcMs >= d.startUtcMs && utcMs < d.endUtcMs))
      samples += 1;
  }
  return (samples * stepMs) / 3_600_000;
}

/** Exposures to take rather than to have: a share of them will be rejected. */
function seasonGoal(
  { request, acceptance, firstFilter }: RigPart,
  goal: RequestedGoal,
  weight: number,
  weights: ObjectiveWeights,
): Omit<SeasonGoal, 'panel' | 'row'> {
  const panel = request.panels.find(({ id }) => id === goal.panelId)!;
  const rate = acceptance[panel.projectId] ?? 1;
  const isCounted = goal.wanted !== null && goal.wanted > 0;
  return {
    filter: firstFilter + request.filters.findIndex(({ id }) => id === goal.filterId),
    exposureSec: goal.settings.exposureSec,
    cycleSec: exposureCycleSec(request.rig.costs, goal.settings),
    // What is never whole doesn't hold its panel back.
    wanted: isCounted ? goal.wanted / rate : 1,
    done: isCounted ? Math.max(0, goal.wanted - goal.toPlan) / rate : 1,
    count: Math.ceil(goal.toPlan / rate - 1e-9),
    value: (weights.light * (weight + (goal.sharedWith?.weight ?? 0)) * goal.settings.exposureSec) / 3600,
  };
}

const hoursOf = (goals: readonly RequestedGoal[]): number =>
  goals.reduce((sum, { wanted, settings }) => sum + ((wanted ?? 0) * settings.exposureSec) / 3600, 0);

/** A project with an open-ended goal is never finished. */
function bonusOf(
  projectId: string,
  perHour: number,
  panels: NightRequest['panels'],
  goals: readonly RequestedGoal[],
): number {
  const ids = new Set(panels.flatMap((panel) => (panel.projectId === projectId ? [panel.id] : [])));
  const own = goals.filter(({ panelId }) => ids.has(panelId));
  return own.some(({ wanted }) => wanted === null) ? 0 : perHour * hoursOf(own);
}

/** Travel and changes of filter; each rig's hold for its own panels and filters, and no lane sees another rig's. */
function changes(parts: readonly RigPart[], panelCount: number) {
  const panelChange = new Float64Array(panelCount ** 2);
  let first = 0;
  for (const { request, panels } of parts) {
    panels.forEach((from, i) =>
      panels.forEach((to, k) => {
        if (i === k || !from.position || !to.position) return;
        panelChange[(first + i) * panelCount + first + k] = panelChangeSec(
          request.rig.costs,
          from.position,
          to.position,
        );
      }),
    );
    first += panels.length;
  }
  const fitted = parts.flatMap(({ request }, r) =>
    request.filters.map((filter) => ({ ...filter, r, costs: request.rig.costs })),
  );
  const filterChange = Float64Array.from({ length: fitted.length ** 2 }, (_, i) => {
    const [from, to] = [fitted[Math.floor(i / fitted.length)], fitted[i % fitted.length]];
    if (from.r !== to.r || from.id === to.id) return 0;
    return filterChangeSec(to.costs, from.offsetKnown && to.offsetKnown);
  });
  return { panelChangeSec: panelChange, filterChangeSec: filterChange, filters: fitted.length };
}
