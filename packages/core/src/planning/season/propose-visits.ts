// Suggested visits: every turn of a camera and exchange of filters that the season's goals could use, tried on nights ahead and weighed against what a visit costs.
import { angleApartDeg } from '../../framing/angle.ts';
import { iterationsFor } from './budget.ts';
import { planSeason } from './plan-season.ts';
import type { SeasonVisit } from './rig-visits.ts';
import { servedOn } from './rig-visits.ts';
import type { NamedSeason, SeasonRequest, SeasonRig } from './season-of-nights.ts';
import { seasonOfNights, visited } from './season-of-nights.ts';
import type { SeasonLane, SeasonPlan, SeasonProblem } from './season-problem.ts';

export interface VisitRules {
  /** Weighted hours that a visit must be worth. */
  readonly costHours: number;
  /** Nights between one visit and the next. */
  readonly apartNights: number;
}
export const VISIT_RULES: VisitRules = { costHours: 3, apartNights: 10 };

export interface VisitOptions extends VisitRules {
  readonly seed: number;
  /** The search's budget for each trial, in seconds of one core. */
  readonly secondsEach: number;
  /** Nights before which somebody goes anyway: more work on such a day costs nothing. */
  readonly visitNights: readonly string[];
}

export interface ProposedJob {
  readonly rigId: string;
  /** Where the camera is to stand; null for an exchange of filters. */
  readonly skyAngleDeg: number | null;
  readonly fits: string | null;
  readonly removes: string | null;
  /** Weighted hours that the season gains, the cost of the visit not taken off. */
  readonly gainHours: number;
  /** Expected hours of exposure, by project: more is unlocked, less is blocked. */
  readonly hours: readonly { readonly projectId: string; readonly hours: number }[];
}

export interface ProposedVisit {
  readonly nightDate: string;
  /** Joins a visit that is planned already. */
  readonly isPlanned: boolean;
  readonly jobs: readonly ProposedJob[];
}

/** Jobs that one proposal holds at most. */
const MOST_JOBS = 4;
/** Nights are tried this far apart first, then those around the best. */
const STRIDE = 6;
/** Less change is noise of the search. */
const LEAST_HOURS = 0.25;

type Job = Omit<ProposedJob, 'gainHours' | 'hours'>;
interface Trial {
  readonly job: Job;
  readonly nightDate: string;
  readonly gainHours: number;
  readonly netHours: number;
}

/** @param onProgress gets the share that is done; says whether to stop
 * @returns visits in time order, none where none is worth its cost; null where it was stopped */
export function proposeVisits(
  request: SeasonRequest,
  options: VisitOptions,
  onProgress: (share: number) => boolean = () => false,
): ProposedVisit[] | null {
  const nights = request.nights.map(({ night }) => night.nightDate);
  const rigs = request.rigs.map((rig) => new TriedRig(rig, request.nights, options));
  const jobs = rigs.flatMap((tried) => wantedJobs(tried.rig).map((job) => ({ tried, job })));
  const taken: { readonly nightDate: string; readonly job: ProposedJob }[] = [];
  const isPlanned = (nightDate: string): boolean => options.visitNights.includes(nightDate);
  const costOf = (nightDate: string): number => {
    const others = [...options.visitNights, ...taken.map((each) => each.nightDate)];
    if (others.includes(nightDate)) return 0;
    const isTooNear = others.some((other) => nightsBetween(nights, nightDate, other) < options.apartNights);
    return isTooNear ? Infinity : options.costHours;
  };
  while (taken.length < MOST_JOBS) {
    let best: (Trial & { readonly tried: TriedRig }) | null = null;
    for (const [j, { tried, job }] of jobs.entries()) {
      if (onProgress((taken.length + j / jobs.length) / MOST_JOBS)) return null;
      const trial = bestNight(tried, job, nights, costOf);
      if (trial && trial.netHours > (best?.netHours ?? 0)) best = { ...trial, tried };
    }
    if (!best) break;
    const { tried, job, nightDate, gainHours } = best;
    taken.push({ nightDate, job: { ...job, gainHours, hours: tried.take(job, nightDate) } });
  }
  return [...new Set(taken.map(({ nightDate }) => nightDate))].sort().map((nightDate) => ({
    nightDate,
    isPlanned: isPlanned(nightDate),
    jobs: taken.filter((each) => each.nightDate === nightDate).map(({ job }) => job),
  }));
}

const nightsBetween = (nights: readonly string[], a: string, b: string): number =>
  Math.abs(nights.indexOf(a) - nights.indexOf(b));

/** The night before which a job gains most after its cost. */
function bestNight(
  tried: TriedRig,
  job: Job,
  nights: readonly string[],
  costOf: (nightDate: string) => number,
): Trial | null {
  const gains = new Map<string, Trial>();
  const look = (nightDate: string | undefined): void => {
    if (nightDate === undefined || gains.has(nightDate)) return;
    const cost = costOf(nightDate);
    if (cost === Infinity) return;
    const gainHours = tried.gain(job, nightDate);
    gains.set(nightDate, { job, nightDate, gainHours, netHours: gainHours - cost });
  };
  const best = (): Trial | null =>
    [...gains.values()].reduce<Trial | null>((a, b) => (a && a.netHours >= b.netHours ? a : b), null);
  // Nobody goes there before tomorrow.
  nights.forEach((nightDate, n) => {
    if (n > 0 && (n % STRIDE === 1 || costOf(nightDate) === 0)) look(nightDate);
  });
  const found = best();
  if (found) {
    const at = nights.indexOf(found.nightDate);
    for (const by of [-3, 3, -1, 1]) if (at + by > 0) look(nights[at + by]);
  }
  return best();
}

/** One rig with the visits taken so far, its sky looked at once for all trials. */
class TriedRig {
  readonly rig: SeasonRig;
  readonly #options: VisitOptions;
  readonly #open: NamedSeason;
  readonly #values = new Map<string, { readonly value: number; readonly hours: Map<string, number> }>();
  #visits: readonly SeasonVisit[];

  constructor(rig: SeasonRig, nights: SeasonRequest['nights'], options: VisitOptions) {
    this.rig = rig;
    this.#options = options;
    this.#visits = rig.visits ?? [];
    const motor = { ...rig.request, rig: { ...rig.request.rig, rotatorKind: 'motor' as const } };
    this.#open = seasonOfNights({ rigs: [{ ...rig, request: motor, notFitted: [], visits: [] }], nights });
  }

  /** Weighted hours that a job before a night adds to the season. */
  gain(job: Job, nightDate: string): number {
    return this.#season([...this.#visits, visitFor(job, nightDate)]).value - this.#season(this.#visits).value;
  }

  /** Takes a job for granted from now on.
   * @returns the hours that it moves, by project */
  take(job: Job, nightDate: string): ProposedJob['hours'] {
    const before = this.#season(this.#visits).hours;
    this.#visits = [...this.#visits, visitFor(job, nightDate)];
    const after = this.#season(this.#visits).hours;
    return this.#open.projectIds
      .map((projectId) => ({ projectId, hours: after.get(projectId)! - before.get(projectId)! }))
      .filter(({ hours }) => Math.abs(hours) >= LEAST_HOURS)
      .toSorted((a, b) => b.hours - a.hours);
  }

  #season(visits: readonly SeasonVisit[]) {
    const key = JSON.stringify(visits);
    const known = this.#values.get(key);
    if (known) return known;
    const { seed, secondsEach } = this.#options;
    const problem = servedOnly(this.#open, { ...this.rig, visits });
    const { plan, value } = planSeason(problem, { seed, iterations: iterationsFor(problem, secondsEach) });
    const found = { value, hours: hoursByProject(this.#open, plan) };
    this.#values.set(key, found);
    return found;
  }
}

const visitFor = ({ skyAngleDeg, fits, removes }: Job, nightDate: string): SeasonVisit => ({
  nightDate,
  skyAngleDeg,
  fits: fits === null ? [] : [fits],
  removes: removes === null ? [] : [removes],
});

/** The problem without the light that the rig, as visits leave it, doesn't serve. */
function servedOnly({ problem, goalIds, lanes }: NamedSeason, rig: SeasonRig): SeasonProblem {
  const { goals, panels } = rig.request;
  const angleOf = new Map(panels.map((panel) => [panel.id, panel.positionAngleDeg]));
  const byId = new Map(goals.map((goal) => [goal.id, goal]));
  return {
    ...problem,
    lanes: problem.lanes.map((lane, l): SeasonLane => {
      const isServed = servedOn(visited(rig), lanes[l].nightDate);
      const rates = lane.rates.slice();
      goalIds.forEach((id, g) => {
        const { panelId, filterId } = byId.get(id)!;
        const { row } = problem.goals[g];
        if (!isServed(angleOf.get(panelId)!, filterId)) rates.fill(0, row * lane.slots, (row + 1) * lane.slots);
      });
      return { ...lane, rates };
    }),
  };
}

function hoursByProject({ problem, projectIds, lanes }: NamedSeason, plan: SeasonPlan): Map<string, number> {
  const hours = new Map(projectIds.map((id) => [id, 0]));
  plan.forEach((runs, l) => {
    for (const { goal, count } of runs) {
      const { panel, exposureSec } = problem.goals[goal];
      const id = projectIds[problem.panels[panel].project];
      hours.set(id, hours.get(id)! + (lanes[l].odds * count * exposureSec) / 3600);
    }
  });
  return hours;
}

/** Turns to each angle that panels with something left want, and exchanges for each filter that goals wait for. */
function wantedJobs(rig: SeasonRig): Job[] {
  const { rigId } = rig;
  const turns = rig.request.rig.rotatorKind === 'hand' ? wantedAngles(rig) : [];
  return [
    ...turns.map((skyAngleDeg): Job => ({ rigId, skyAngleDeg, fits: null, removes: null })),
    ...wantedExchanges(rig).map((exchange): Job => ({ rigId, skyAngleDeg: null, ...exchange })),
  ];
}

/** Angles that are wanted, those that serve most exposing time first; of those that serve the same panels, one. */
function wantedAngles({ request: { rig, panels, goals } }: SeasonRig): number[] {
  const leftSec = new Map<string, number>();
  for (const { panelId, toPlan, settings } of goals)
    leftSec.set(panelId, (leftSec.get(panelId) ?? 0) + Math.min(toPlan, 1e4) * settings.exposureSec);
  const open = panels.filter(({ id }) => (leftSec.get(id) ?? 0) > 0);
  const sets = open.map(({ positionAngleDeg }) => {
    const near = open.filter(
      (panel) => angleApartDeg(panel.positionAngleDeg, positionAngleDeg) <= rig.angleToleranceDeg,
    );
    return {
      positionAngleDeg,
      key: near.map(({ id }) => id).join(),
      sec: near.reduce((sum, { id }) => sum + leftSec.get(id)!, 0),
    };
  });
  return [...new Map(sets.map((set) => [set.key, set])).values()]
    .toSorted((a, b) => b.sec - a.sec)
    .slice(0, MOST_JOBS)
    .map(({ positionAngleDeg }) => positionAngleDeg);
}

/** Each filter that goals wait for, in the place of the fitted one with least left to expose. */
function wantedExchanges({ request: { goals, filters }, notFitted = [] }: SeasonRig): Pick<Job, 'fits' | 'removes'>[] {
  const leftSec = (filterId: string): number =>
    goals.reduce((sum, goal) => sum + (goal.filterId === filterId ? goal.toPlan * goal.settings.exposureSec : 0), 0);
  const missing = new Set(notFitted);
  const fitted = filters.filter(({ id }) => !missing.has(id)).toSorted((a, b) => leftSec(a.id) - leftSec(b.id));
  return notFitted.filter((id) => leftSec(id) > 0).map((fits) => ({ fits, removes: fitted[0]?.id ?? null }));
}
