// Judges a night plan against the sky itself: every limit of every exposure, sampled each two seconds with fresh positions.
import { airmass } from '../../sky/airmass.ts';
import { directionOf, hourAngleDegOf } from '../../sky/altitude.ts';
import { angleBetweenDeg, apparentSiderealDeg, apparentVector, frameOfDate } from '../../sky/frame-of-date.ts';
import { horizonAltitudeDeg } from '../../sky/horizon.ts';
import type { HorizonProfile } from '../../sky/horizon.ts';
import { moonlightNanolamberts, nanolambertsOf, scatteringAirmass } from '../../sky/moonlight.ts';
import type { Site, SkyPosition } from '../../sky/site.ts';
import { luminaryDirection, luminaryVector, moonPhase } from '../../sky/sun-moon.ts';
import type { Violation } from './check-night.ts';
import { violation } from './check-night.ts';

/** What the checker is told of one exposure; limits as plain numbers, null = no limit. */
export interface CheckedExposure {
  readonly goal: string;
  readonly position: SkyPosition;
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly filter: { extinctionMagPerAirmass: number; moonFactor: number };
  readonly minAltitudeDeg: number | null;
  readonly horizonMarginDeg: number;
  /** What the observatory never allows. */
  readonly sunBoundDeg: number;
  readonly sunAltitudeMaxDeg: number;
  /** Minutes added after the sun has that depth, and kept free before it is back. */
  readonly afterDuskMin: number;
  readonly beforeDawnMin: number;
  readonly moonSeparationMinDeg: number | null;
  readonly moonLitShareMin: number;
  readonly moonlightToleranceMag: number | null;
  readonly moonAltitudeMaxDeg: number | null;
  readonly hourAngleMaxHours: number | null;
  readonly zenithKeepOutDeg: number | null;
  /** Local times as minutes after midnight; a night runs from noon to noon. */
  readonly notBeforeClockMin: number | null;
  readonly notAfterClockMin: number | null;
  /** Evenings as days since 1970. */
  readonly firstNightDay: number | null;
  readonly lastNightDay: number | null;
  /** Nearest the exposure may come to the meridian before and after, minutes; null for mounts that don't flip. */
  readonly flipKeepOutMin: { before: number; after: number } | null;
  /** Signal over the dark zenith allowed at least, as share of the target's best; null = none. */
  readonly minRateShare: number | null;
  readonly darkSkyPerSec: number;
  readonly noisePerSec: number;
}

export interface CheckedSite {
  readonly site: Site;
  readonly horizon: HorizonProfile;
  readonly mountAltitudeMinDeg: number;
  readonly zenithMagV: number;
  readonly timeZone: string;
}

const STEP_MS = 2000;
const MINUTE_MS = 60_000;
/** What two seconds of sky motion and a minute's interpolation may amount to. */
const SLACK = { deg: 0.01, mag: 0.01, share: 0.005, min: 0.05 };

/** Every limit broken by any exposure. */
export function checkSky(at: CheckedSite, exposures: readonly CheckedExposure[]): Violation[] {
  return exposures.flatMap((exposure) => {
    const frame = frameOfDate(exposure.startUtcMs);
    for (
      let utcMs = exposure.startUtcMs;
      utcMs <= exposure.startUtcMs + exposure.exposureSec * 1000;
      utcMs += STEP_MS
    ) {
      const broken = brokenAt(at, exposure, utcMs, frame);
      if (broken) return [violation('LIMIT_BROKEN', exposure.goal, (utcMs - exposure.startUtcMs) / 1000, broken)];
    }
    return [];
  });
}

function brokenAt(
  at: CheckedSite,
  e: CheckedExposure,
  utcMs: number,
  frame: ReturnType<typeof frameOfDate>,
): string | null {
  const seen = directionOf(at.site, e.position, utcMs, frame);
  const sun = luminaryDirection(at.site, 'sun', utcMs, frame).altitudeDeg;
  if (sun > e.sunBoundDeg + SLACK.deg) return `sun at ${sun.toFixed(3)}°`;
  const byClock = brokenByTime(at, e, utcMs);
  if (byClock) return byClock;
  if (seen.altitudeDeg < at.mountAltitudeMinDeg - SLACK.deg)
    return `below the mount's limit at ${seen.altitudeDeg.toFixed(3)}°`;
  if (e.minAltitudeDeg !== null && seen.altitudeDeg < e.minAltitudeDeg - SLACK.deg)
    return `altitude ${seen.altitudeDeg.toFixed(3)}°`;
  const overHorizon = seen.altitudeDeg - horizonAltitudeDeg(at.horizon, seen.azimuthDeg);
  if (overHorizon < e.horizonMarginDeg - SLACK.deg) return `${overHorizon.toFixed(3)}° over the horizon`;
  const vector = apparentVector(frame, e.position);
  const hours = hourAngleDegOf(at.site, vector, apparentSiderealDeg(frame, utcMs)) / 15;
  if (e.zenithKeepOutDeg !== null && 90 - seen.altitudeDeg < e.zenithKeepOutDeg - SLACK.deg)
    return `${(90 - seen.altitudeDeg).toFixed(3)}° from the zenith`;
  if (e.hourAngleMaxHours !== null && Math.abs(hours) > e.hourAngleMaxHours + 0.001)
    return `hour angle ${hours.toFixed(3)} h`;
  const lower = hours > 0 ? hours - 12 : hours + 12;
  for (const passage of [hours, lower]) {
    const minutes = passage * 60 * 0.99727;
    if (e.flipKeepOutMin && minutes > -e.flipKeepOutMin.before + 0.05 && minutes < e.flipKeepOutMin.after - 0.05)
      return `${minutes.toFixed(1)} min from the meridian`;
  }
  return brokenByMoon(at, e, utcMs, { altitudeDeg: seen.altitudeDeg, sunAltitudeDeg: sun, vector, frame });
}

/** Twilight with its minutes, clock times and dates. */
function brokenByTime({ site, timeZone }: CheckedSite, e: CheckedExposure, utcMs: number): string | null {
  const sunAt = (ms: number): number => luminaryDirection(site, 'sun', ms).altitudeDeg;
  // In the evening the sun must have had the depth so many minutes ago, in the morning keep it for so many.
  const isEvening = sunAt(utcMs + MINUTE_MS) < sunAt(utcMs - MINUTE_MS);
  const countedMs = utcMs + MINUTE_MS * (isEvening ? -e.afterDuskMin : e.beforeDawnMin);
  const sunDeg = sunAt(countedMs);
  if (sunDeg > e.sunAltitudeMaxDeg + SLACK.deg) return `sun at ${sunDeg.toFixed(3)}° where twilight is counted`;
  const isAsked = [e.notBeforeClockMin, e.notAfterClockMin, e.firstNightDay, e.lastNightDay].some(
    (one) => one !== null,
  );
  if (!isAsked) return null;
  const local = localTime(timeZone, utcMs);
  const sinceNoon = (clockMin: number): number => (clockMin + 720) % 1440;
  if (e.notBeforeClockMin !== null && sinceNoon(local.clockMin) < sinceNoon(e.notBeforeClockMin) - SLACK.min)
    return `${local.clockMin.toFixed(1)} min after midnight is too early`;
  if (e.notAfterClockMin !== null && sinceNoon(local.clockMin) > sinceNoon(e.notAfterClockMin) + SLACK.min)
    return `${local.clockMin.toFixed(1)} min after midnight is too late`;
  const eveningDay = local.day - (local.clockMin < 720 ? 1 : 0);
  return (e.firstNightDay !== null && eveningDay < e.firstNightDay) ||
    (e.lastNightDay !== null && eveningDay > e.lastNightDay)
    ? `the evening of day ${eveningDay} is outside its dates`
    : null;
}

/** The wall clock of a zone, as the platform tells it. */
function localTime(timeZone: string, utcMs: number): { clockMin: number; day: number } {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  }).formatToParts(utcMs);
  const n = (type: string): number => Number(parts.find((part) => part.type === type)!.value);
  return {
    clockMin: n('hour') * 60 + n('minute') + n('second') / 60,
    day: Date.UTC(n('year'), n('month') - 1, n('day')) / 86_400_000,
  };
}

function brokenByMoon(
  at: CheckedSite,
  e: CheckedExposure,
  utcMs: number,
  seen: {
    altitudeDeg: number;
    sunAltitudeDeg: number;
    vector: ReturnType<typeof apparentVector>;
    frame: ReturnType<typeof frameOfDate>;
  },
): string | null {
  const moonAltitudeDeg = luminaryDirection(at.site, 'moon', utcMs, seen.frame).altitudeDeg;
  if (e.moonAltitudeMaxDeg !== null && moonAltitudeDeg > e.moonAltitudeMaxDeg + SLACK.deg)
    return `moon up at ${moonAltitudeDeg.toFixed(2)}°`;
  const separationDeg = angleBetweenDeg(luminaryVector(at.site, 'moon', utcMs), seen.vector);
  const phase = moonPhase(utcMs);
  const nearMoon = e.moonSeparationMinDeg !== null && separationDeg < e.moonSeparationMinDeg - SLACK.deg;
  if (nearMoon && moonAltitudeDeg > -0.8 + SLACK.deg && phase.illuminatedShare > e.moonLitShareMin + 0.02)
    return `moon ${separationDeg.toFixed(2)}° away`;
  const moon =
    moonlightNanolamberts({
      phaseAngleDeg: phase.phaseAngleDeg,
      moonZenithDistanceDeg: 90 - moonAltitudeDeg,
      targetZenithDistanceDeg: 90 - seen.altitudeDeg,
      separationDeg,
      extinctionMagPerAirmass: 0.172,
    }) / nanolambertsOf(at.zenithMagV);
  const k = e.filter.extinctionMagPerAirmass;
  const x = scatteringAirmass(90 - seen.altitudeDeg);
  const dark = 10 ** (-0.4 * k * (x - 1)) * x;
  const brightening = 2.5 * Math.log10(1 + (e.filter.moonFactor * moon) / dark);
  if (e.moonlightToleranceMag !== null && brightening > e.moonlightToleranceMag + 0.03)
    return `moonlight of ${brightening.toFixed(3)} mag`;
  if (e.minRateShare === null) return null;
  const twilight = 10 ** (0.4 * (at.zenithMagV - 22.38 + 0.837 * (Math.min(0, seen.sunAltitudeDeg) + 15)));
  const background = e.darkSkyPerSec * (dark + e.filter.moonFactor * moon + twilight);
  const rate = (altitudeDeg: number, sky: number): number =>
    (10 ** (-0.8 * k * (airmass(altitudeDeg) - 1)) * (e.darkSkyPerSec + e.noisePerSec)) / (sky + e.noisePerSec);
  const highestDeg = 90 - Math.abs(at.site.latitudeDeg - e.position.decDeg);
  const xBest = scatteringAirmass(90 - highestDeg);
  const best = rate(highestDeg, e.darkSkyPerSec * 10 ** (-0.4 * k * (xBest - 1)) * xBest);
  const share = rate(seen.altitudeDeg, background) / best;
  return share < e.minRateShare - SLACK.share - 0.02 * e.minRateShare
    ? `rate at ${share.toFixed(3)} of the best`
    : null;
}
