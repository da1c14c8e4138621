// Tonight's sky for every goal: limits in force, windows with reasons, and the rate at each minute.
import type { RequestedFilter } from './night-request.ts';
import type { BlockedReason, GoalNight, NightRequest, RequestedGoal, RequestedPanel } from './night-request.ts';
import type { SkyLight } from '../../exposure/filter-sky.ts';
import { skyLightSamples } from '../../exposure/filter-sky.ts';
import { bestRate, rateModel, signalRate } from '../../exposure/signal-rate.ts';
import { limitsInForce } from '../../limits/limit-values.ts';
import type { LimitsInForce } from '../../limits/limit-values.ts';
import type { Rule } from '../../limits/obstacles.ts';
import { rulesFor } from '../../limits/obstacles.ts';
import { sampledCircumstances } from '../../limits/sampled-circumstances.ts';
import { windowsOf } from '../../limits/windows.ts';
import { darkIntervals, sunPassage, transitsOf } from '../../sky/events.ts';
import type { SunPassage } from '../../sky/events.ts';
import type { NightTable, TargetSamples } from '../../sky/night-table.ts';
import { momentOfSample, nightTable, targetSamples } from '../../sky/night-table.ts';
import type { SkyPosition } from '../../sky/site.ts';
import type { Interval } from '../../time/nights.ts';
import { clockTimeInNight } from '../../time/nights.ts';
import { angleApartDeg } from '../../framing/angle.ts';
import { DAY_MS, wrap360 } from '../../units.ts';

const STEP_SEC = 60;
const SUNSET_ALTITUDE_DEG = -0.833;

export interface NightSurvey {
  readonly table: NightTable;
  readonly goals: readonly GoalNight[];
}

/** The stretch of a night that plans look at: sunset to sunrise, or the whole night where the sun stays down; null where it stays up. */
export function planningInterval(request: Pick<NightRequest, 'site' | 'night' | 'fromUtcMs'>): Interval | null {
  const down = darkIntervals(request.site, request.night, SUNSET_ALTITUDE_DEG);
  if (down.length === 0) return null;
  const startUtcMs = Math.max(down[0].startUtcMs, request.fromUtcMs ?? 0);
  const endUtcMs = down[down.length - 1].endUtcMs;
  return endUtcMs - startUtcMs > 2 * STEP_SEC * 1000 ? { startUtcMs, endUtcMs } : null;
}

/** Surveys every goal; null where the night has no planning interval. */
export function surveyNight(request: NightRequest, stepSec = STEP_SEC): NightSurvey | null {
  const interval = planningInterval(request);
  if (!interval) return null;
  const table = nightTable(request.site, interval, stepSec);
  const shared: Shared = { request, table, panels: new Map(), passages: new Map() };
  return {
    table,
    goals: onePanelANight(
      request,
      request.goals.map((goal) => surveyGoal(shared, goal)),
    ),
  };
}

/** Where a project works on one panel a night, all but one are blocked: the one that is furthest along among those that can be used. */
function onePanelANight(request: NightRequest, goals: GoalNight[]): GoalNight[] {
  const single = request.projects.filter(({ panelOrder }) => panelOrder === 'one_per_night');
  const blocked = new Set<string>();
  for (const project of single) {
    const panels = request.panels.filter((panel) => panel.projectId === project.id);
    const standings = panels.map((panel) => {
      const own = request.goals.flatMap((goal, g) => (goal.panelId === panel.id ? [{ goal, night: goals[g] }] : []));
      const open = own.filter(({ goal, night }) => goal.toPlan > 0 && !night.blocked && night.windows.length > 0);
      const shares = own.map(({ goal }) => (goal.wanted ? goal.done / goal.wanted : 0));
      return {
        id: panel.id,
        isOpen: open.length > 0,
        share: shares.reduce((a, b) => a + b, 0) / Math.max(1, shares.length),
      };
    });
    const tonight = standings
      .filter(({ isOpen }) => isOpen)
      .reduce<(typeof standings)[number] | null>((best, one) => (best && best.share >= one.share ? best : one), null);
    for (const { id } of standings) if (tonight && id !== tonight.id) blocked.add(id);
  }
  return goals.map((night, g) =>
    !night.blocked && blocked.has(request.goals[g].panelId) ? { ...night, blocked: { code: 'OTHER_PANEL' } } : night,
  );
}

interface PanelSky {
  readonly target: TargetSamples;
  readonly moonRatioV: Float64Array;
  readonly twilightRatioV: Float64Array;
  readonly flipBlackouts: readonly Interval[];
}

interface Shared {
  readonly request: NightRequest;
  readonly table: NightTable;
  readonly panels: Map<string, PanelSky>;
  readonly passages: Map<number, SunPassage>;
}

function surveyGoal(shared: Shared, goal: RequestedGoal): GoalNight {
  const { request, table } = shared;
  const panel = request.panels.find((candidate) => candidate.id === goal.panelId)!;
  const filter = request.filters.find((candidate) => candidate.id === goal.filterId)!;
  const project = request.projects.find((candidate) => candidate.id === panel.projectId)!;
  const limits = limitsInForce([...goal.limits, ...project.limits, ...request.observatoryLimits], filter.class);
  const base = { goalId: goal.id, filterClass: filter.class, limits };
  const blocked = blockedReason(request, panel);
  if (!panel.position) return { ...base, windows: [], gaps: [], rateShare: new Float64Array(table.length), blocked };
  const sky = panelSky(shared, panel, panel.position);
  const rate = goalRate(shared, { goal, filter, decDeg: panel.position.decDeg });
  const rateShare = rateShares(table, sky, rate);
  const samples = sampledCircumstances({
    table,
    target: sky.target,
    filter,
    zenithMagV: request.zenithMagV,
    rateShareAt: rate,
    moonRatioV: sky.moonRatioV,
    rateShare,
  });
  const inForce = [limits, ...(goal.sharedWith ? [limitsInForce([...goal.sharedWith.limits, ...request.observatoryLimits], filter.class)] : [])]; // prettier-ignore
  const rules = inForce.flatMap((one) => rulesOf(shared, one, sky.flipBlackouts));
  return { ...base, ...windowsOf(samples, rules), rateShare, blocked };
}

const rulesOf = (shared: Shared, limits: LimitsInForce, flipBlackouts: readonly Interval[]): Rule[] =>
  rulesFor({
    night: shared.request.night,
    nightDay: Math.round(Date.parse(shared.request.night.nightDate) / DAY_MS),
    limits,
    bounds: shared.request.bounds,
    horizon: shared.request.horizon,
    moonIlluminatedShare: shared.table.moonIlluminatedShare,
    sunPassage: passageOf(shared, limits),
    notBeforeUtcMs: clockMoment(shared.request, limits.notBeforeClockMin.value),
    notAfterUtcMs: clockMoment(shared.request, limits.notAfterClockMin.value),
    flipBlackouts,
  });

const clockMoment = (request: NightRequest, clockMin: number | null): number | null =>
  clockMin === null ? null : clockTimeInNight(request.night, clockMin, request.timeZone);

function passageOf({ request, passages }: Shared, limits: LimitsInForce): SunPassage {
  const level = limits.sunAltitudeMaxDeg.value ?? request.bounds.sunAltitudeMaxDeg;
  const known = passages.get(level) ?? sunPassage(request.site, request.night, level);
  passages.set(level, known);
  return known;
}

/** A hand-turned or fixed camera only serves panels near its present angle; p and p + 180 frame the same sky. */
function blockedReason({ rig }: NightRequest, panel: RequestedPanel): BlockedReason | null {
  if (!panel.position) return { code: 'NO_POSITION' };
  if (rig.rotatorKind === 'motor') return null;
  if (rig.skyAngleDeg === null) return { code: 'ANGLE_UNKNOWN' };
  const apartDeg = angleApartDeg(panel.positionAngleDeg, rig.skyAngleDeg);
  return apartDeg <= rig.angleToleranceDeg
    ? null
    : { code: 'CAMERA_ANGLE', actualDeg: apartDeg, limitDeg: rig.angleToleranceDeg };
}

function panelSky(shared: Shared, panel: RequestedPanel, position: SkyPosition): PanelSky {
  const known = shared.panels.get(panel.id);
  if (known) return known;
  const target = targetSamples(shared.table, position);
  const light = skyLightSamples(shared.table, target, shared.request.zenithMagV);
  const sky = { target, ...light, flipBlackouts: flipBlackouts(shared, position) };
  shared.panels.set(panel.id, sky);
  return sky;
}

/** A German equatorial mount turns over at each meridian passage, upper and lower; others follow through. */
function flipBlackouts({ request, table }: Shared, position: SkyPosition): Interval[] {
  const { mountKind, flipBeforeSec, flipAfterSec, costs } = request.rig;
  if (mountKind !== 'german_equatorial') return [];
  const span = {
    startUtcMs: table.startUtcMs - DAY_MS / 24,
    endUtcMs: momentOfSample(table, table.length - 1) + DAY_MS / 24,
  };
  const opposite = { raDeg: wrap360(position.raDeg + 180), decDeg: position.decDeg };
  const passages = [...transitsOf(request.site, position, span), ...transitsOf(request.site, opposite, span)];
  return passages.map((utcMs) => ({
    startUtcMs: utcMs - flipBeforeSec * 1000,
    endUtcMs: utcMs + (flipAfterSec + costs.flipSec) * 1000,
  }));
}

/** A goal's rate by altitude and light, over the target's own best. */
type RateShare = (altitudeDeg: number, light: SkyLight) => number;

function goalRate(
  { request }: Shared,
  of: { goal: RequestedGoal; filter: RequestedFilter; decDeg: number },
): RateShare {
  const { binning, readNoiseE, darkCurrentEPerSec = request.rig.detector.darkCurrentEPerSec } = of.goal;
  const detector = { ...request.rig.detector, binning, readNoiseE, darkCurrentEPerSec };
  const model = rateModel(of.filter, detector, of.goal.settings.exposureSec);
  const best = bestRate(model, request.site.latitudeDeg, of.decDeg);
  return (altitudeDeg, light) => (best > 0 ? signalRate(model, altitudeDeg, light) / best : 0);
}

function rateShares({ length }: NightTable, sky: PanelSky, rate: RateShare): Float64Array {
  return Float64Array.from({ length }, (_, i) =>
    rate(sky.target.altitudeDeg[i], { moonRatioV: sky.moonRatioV[i], twilightRatioV: sky.twilightRatioV[i] }),
  );
}
