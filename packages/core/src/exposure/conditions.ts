// The sky over one exposure: what its figures are judged by, and what its time was worth.
import { airmass } from '../sky/airmass.ts';
import { directionOf } from '../sky/altitude.ts';
import { frameOfDate } from '../sky/frame-of-date.ts';
import type { Site, SkyPosition } from '../sky/site.ts';
import { luminaryDirection, moonPhase, moonSeparationDeg } from '../sky/sun-moon.ts';
import type { UtcMs } from '../units.ts';
import type { FilterSky } from './filter-sky.ts';
import { moonlightRatio, skyRatio, twilightRatio } from './filter-sky.ts';
import type { Detector } from './signal-rate.ts';
import { bestRate, rateModel, signalRate, transparency } from './signal-rate.ts';

export interface ExposureConditions {
  /** Geometric, at mid-exposure. */
  readonly altitudeDeg: number;
  readonly airmass: number;
  /** Light left by extinction relative to the zenith, (0, 1]. */
  readonly transparency: number;
  /** Sky brightness in the filter over its dark zenith. */
  readonly skyRatio: number;
  /** Signal rate over the target's own best in this filter. */
  readonly rateShare: number;
}

export interface TakenExposure {
  readonly site: Site;
  /** Dark zenith in V, magnitudes per square arcsecond. */
  readonly zenithMagV: number;
  readonly filter: FilterSky;
  readonly detector: Detector;
  readonly target: SkyPosition;
  readonly startUtcMs: UtcMs;
  readonly exposureSec: number;
}

/** @returns null where the target was below the horizon: a wrong time or place, not a sky */
export function exposureConditions(taken: TakenExposure): ExposureConditions | null {
  const { site, target, filter, zenithMagV, exposureSec } = taken;
  const midUtcMs = taken.startUtcMs + exposureSec * 500;
  const frame = frameOfDate(midUtcMs);
  const { altitudeDeg } = directionOf(site, target, midUtcMs, frame);
  if (!(altitudeDeg > 0)) return null;
  const moonRatioV = moonlightRatio({
    phaseAngleDeg: moonPhase(midUtcMs).phaseAngleDeg,
    moonAltitudeDeg: luminaryDirection(site, 'moon', midUtcMs, frame).altitudeDeg,
    altitudeDeg,
    separationDeg: moonSeparationDeg(site, target, midUtcMs, frame),
    zenithMagV,
  });
  const sunAltitudeDeg = luminaryDirection(site, 'sun', midUtcMs, frame).altitudeDeg;
  const light = { moonRatioV, twilightRatioV: twilightRatio(sunAltitudeDeg, zenithMagV) };
  const model = rateModel(filter, taken.detector, Math.max(exposureSec, 0.001));
  const best = bestRate(model, site.latitudeDeg, target.decDeg);
  return {
    altitudeDeg,
    airmass: airmass(altitudeDeg),
    transparency: transparency(filter, altitudeDeg),
    skyRatio: skyRatio(filter, altitudeDeg, light),
    rateShare: best > 0 ? signalRate(model, altitudeDeg, light) / best : 0,
  };
}
