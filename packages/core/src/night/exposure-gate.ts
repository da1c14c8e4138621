// Whether an exposure may begin at this moment: asked again before each, whatever the plan said in the afternoon.
import type { HorizonProfile } from '../sky/horizon.ts';
import { horizonAltitudeDeg } from '../sky/horizon.ts';
import { luminaryDirection } from '../sky/sun-moon.ts';
import type { Bounds } from '../limits/limit-values.ts';
import { directionOf } from '../sky/altitude.ts';
import type { Site, SkyPosition } from '../sky/site.ts';
import type { UtcMs } from '../units.ts';

export interface GateSetting {
  readonly site: Site;
  readonly horizon: HorizonProfile;
  readonly bounds: Bounds;
  /** The night's end as the plan has it: dawn, or when the site closes. */
  readonly endUtcMs: UtcMs;
}

export type Gate = { readonly isOpen: true } | { readonly isOpen: false; readonly words: string };

/** Sun, horizon and the mount's bounds at the beginning and at the end of an exposure that begins now. */
export function exposureGate(
  { site, horizon, bounds, endUtcMs }: GateSetting,
  target: SkyPosition,
  nowUtcMs: UtcMs,
  exposureSec: number,
): Gate {
  const finishUtcMs = nowUtcMs + exposureSec * 1000;
  if (finishUtcMs > endUtcMs) return shut('it would end after the night');
  for (const utcMs of [nowUtcMs, finishUtcMs]) {
    const sunDeg = luminaryDirection(site, 'sun', utcMs).altitudeDeg;
    if (sunDeg > bounds.sunAltitudeMaxDeg) return shut(`the Sun would be at ${sunDeg.toFixed(1)}°`);
    const { altitudeDeg, azimuthDeg } = directionOf(site, target, utcMs);
    if (altitudeDeg < bounds.mountAltitudeMinDeg) return shut(`the target would be at ${altitudeDeg.toFixed(0)}°`);
    if (altitudeDeg < horizonAltitudeDeg(horizon, azimuthDeg)) return shut('the target would be behind the horizon');
    if (90 - altitudeDeg < bounds.mountZenithHoleDeg)
      return shut('the target would be too near the zenith for the mount');
  }
  return { isOpen: true };
}

const shut = (words: string): Gate => ({ isOpen: false, words });

/** Smallest angle from the sun that a slew with the tube open may pass, degrees. */
export const SUN_KEEP_OUT_DEG = 30;
/** The sun does harm while it is above this. */
export const SUN_HARMLESS_DEG = -6;
