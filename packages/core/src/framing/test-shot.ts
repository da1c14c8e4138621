// A test shot beside what was intended.
import type { SkyPosition } from '../sky/site.ts';
import { wrap360 } from '../units.ts';
import type { SensorOnSky } from './sensor.ts';
import { skyToPixel } from './sensor.ts';

/** How a test shot differs from what was intended. */
export interface ShotOffset {
  /** Of the shot's centre from the intended one: along the intended frame's right and up. */
  readonly rightPx: number;
  readonly upPx: number;
  readonly arcmin: number;
  /** The shot's angle minus the intended one, modulo 180, (−90, 90]. */
  readonly turnedDeg: number;
}

/** @returns null where the shot lies 90° or more away */
export function shotOffset(
  intended: SensorOnSky,
  shot: { readonly centre: SkyPosition; readonly positionAngleDeg: number },
): ShotOffset | null {
  const at = skyToPixel(intended, shot.centre);
  if (!at) return null;
  const [rightPx, upPx] = [at.x - intended.widthPx / 2, at.y - intended.heightPx / 2];
  const turned = wrap360(shot.positionAngleDeg - intended.positionAngleDeg) % 180;
  return {
    rightPx,
    upPx,
    arcmin: (Math.hypot(rightPx, upPx) * intended.scaleArcsecPerPx) / 60,
    turnedDeg: turned > 90 ? turned - 180 : turned,
  };
}
