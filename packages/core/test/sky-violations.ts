// Hands a plan to the sky checker: every exposure with the plain numbers of the limits it promised to keep.
import type { NightPlan, NightRequest } from '../src/planning/night/night-request.ts';
import { checkSky } from '../src/planning/checker/index.ts';
import type { CheckedExposure, Violation } from '../src/planning/checker/index.ts';
import { cameraNoisePerSec, darkSkyElectronsPerSec } from '../src/exposure/signal-rate.ts';
import { limitsInForce } from '../src/limits/limit-values.ts';

export function checkedExposures(request: NightRequest, plan: NightPlan): CheckedExposure[] {
  return plan.blocks.flatMap((block) =>
    block.runs.flatMap((run) => {
      const goal = request.goals.find((candidate) => candidate.id === run.goalId)!;
      const panel = request.panels.find((candidate) => candidate.id === goal.panelId)!;
      const filter = request.filters.find((candidate) => candidate.id === goal.filterId)!;
      const project = request.projects.find((candidate) => candidate.id === panel.projectId)!;
      const limits = limitsInForce([...goal.limits, ...project.limits, ...request.observatoryLimits], filter.class);
      const detector = { ...request.rig.detector, binning: goal.binning, readNoiseE: goal.readNoiseE };
      const german = request.rig.mountKind === 'german_equatorial';
      return run.exposureStartsUtcMs.map((startUtcMs) => ({
        goal: goal.id,
        position: panel.position!,
        startUtcMs,
        exposureSec: goal.settings.exposureSec,
        filter,
        minAltitudeDeg: limits.minAltitudeDeg.value,
        horizonMarginDeg: limits.horizonMarginDeg.value ?? 0,
        sunBoundDeg: request.bounds.sunAltitudeMaxDeg,
        sunAltitudeMaxDeg: limits.sunAltitudeMaxDeg.value ?? 90,
        afterDuskMin: limits.afterDuskMin.value ?? 0,
        beforeDawnMin: limits.beforeDawnMin.value ?? 0,
        moonSeparationMinDeg: limits.moonSeparationMinDeg.value,
        moonLitShareMin: limits.moonLitShareMin.value ?? 0,
        moonlightToleranceMag: limits.moonlightToleranceMag.value,
        moonAltitudeMaxDeg: limits.moonAltitudeMaxDeg.value,
        zenithKeepOutDeg: limits.zenithKeepOutDeg.value,
        notBeforeClockMin: limits.notBeforeClockMin.value,
        notAfterClockMin: limits.notAfterClockMin.value,
        firstNightDay: limits.firstNightDay.value,
        lastNightDay: limits.lastNightDay.value,
        hourAngleMaxHours: limits.hourAngleMaxHours.value,
        flipKeepOutMin: german
          ? {
              before: request.rig.flipBeforeSec / 60,
              after: (request.rig.flipAfterSec + request.rig.costs.flipSec) / 60,
            }
          : null,
        minRateShare: limits.minRateShare.value,
        darkSkyPerSec: darkSkyElectronsPerSec(filter, detector),
        noisePerSec: cameraNoisePerSec(detector, goal.settings.exposureSec),
      }));
    }),
  );
}

export const skyViolations = (request: NightRequest, plan: NightPlan): Violation[] =>
  checkSky(
    {
      site: request.site,
      horizon: request.horizon,
      mountAltitudeMinDeg: request.bounds.mountAltitudeMinDeg,
      zenithMagV: request.zenithMagV,
      timeZone: request.timeZone,
    },
    checkedExposures(request, plan),
  );

/** The only limit that an exposure is left with, by the code of the rule that should fail. */
const ALONE: Readonly<Record<string, readonly (keyof CheckedExposure)[]>> = {
  SUN_BOUND: ['sunBoundDeg'],
  TWILIGHT: ['sunAltitudeMaxDeg', 'afterDuskMin', 'beforeDawnMin'],
  TOO_EARLY: ['notBeforeClockMin'],
  TOO_LATE: ['notAfterClockMin'],
  OUTSIDE_DATES: ['firstNightDay', 'lastNightDay'],
  NEAR_ZENITH: ['zenithKeepOutDeg'],
  MOON_UP: ['moonAltitudeMaxDeg'],
  BELOW_MOUNT: [],
  BELOW_HORIZON: ['horizonMarginDeg'],
  TARGET_TOO_LOW: ['minAltitudeDeg'],
  HOUR_ANGLE: ['hourAngleMaxHours'],
  MERIDIAN_FLIP: ['flipKeepOutMin'],
  MOON_TOO_NEAR: ['moonSeparationMinDeg'],
  MOONLIGHT: ['moonlightToleranceMag'],
  RATE_TOO_SMALL: ['minRateShare'],
};

/** Whether a goal would break its limits at a moment, by the sky checker: all of them, or the one of a code alone. */
export function breaksLimits(request: NightRequest, goal: number, utcMs: number, code: string | null): boolean {
  const { id, panelId } = request.goals[goal];
  const run = {
    goalId: id,
    startUtcMs: utcMs,
    endUtcMs: utcMs,
    exposureStartsUtcMs: [utcMs],
    exposureSec: 1,
    meanRateShare: 1,
  };
  const block = { panelId, startUtcMs: utcMs, endUtcMs: utcMs, runs: [run] };
  const [whole] = checkedExposures(request, { blocks: [block], omissions: [], value: 0 });
  const kept = code === null ? (Object.keys(whole) as (keyof CheckedExposure)[]) : ALONE[code];
  const lifted: CheckedExposure = {
    ...whole,
    exposureSec: 1,
    minAltitudeDeg: null,
    horizonMarginDeg: -90,
    sunBoundDeg: 90,
    sunAltitudeMaxDeg: 90,
    afterDuskMin: 0,
    beforeDawnMin: 0,
    moonSeparationMinDeg: null,
    moonlightToleranceMag: null,
    moonAltitudeMaxDeg: null,
    zenithKeepOutDeg: null,
    notBeforeClockMin: null,
    notAfterClockMin: null,
    firstNightDay: null,
    lastNightDay: null,
    hourAngleMaxHours: null,
    flipKeepOutMin: null,
    minRateShare: null,
  };
  const asked = { ...lifted, ...Object.fromEntries(kept.map((key) => [key, whole[key]])), exposureSec: 1 };
  const mountAltitudeMinDeg = code === null || code === 'BELOW_MOUNT' ? request.bounds.mountAltitudeMinDeg : -90;
  const { site, horizon, zenithMagV, timeZone } = request;
  return checkSky({ site, horizon, mountAltitudeMinDeg, zenithMagV, timeZone }, [asked]).length > 0;
}
