// Angles that frame the sky, and how a camera is turned from one to another.
import { wrap180, wrap360 } from '../units.ts';

/** Difference of two framing angles modulo 180: upside down, a sensor frames the same sky.
 * @returns degrees, [0, 90] */
export function angleApartDeg(aDeg: number, bDeg: number): number {
  const apart = wrap360(aDeg - bDeg) % 180;
  return Math.min(apart, 180 - apart);
}

export interface CameraTurn {
  readonly turnDeg: number;
  /** As seen from behind the camera, looking towards the sky. */
  readonly direction: 'clockwise' | 'counter-clockwise';
  /** Along the outside of the tube that turns; null where its diameter isn't known. */
  readonly drawtubeMm: number | null;
}

/** The shorter way from one framing angle to another that frames the same sky, by hand at the telescope.
 * Position angles grow from north through east, which is counter-clockwise on the sky as one looks at it; an odd number of mirrors turns that round.
 * @param drawtubeMm outer diameter of the tube that turns with the camera
 * @returns null where they frame the same sky already */
export function cameraTurn(
  fromDeg: number,
  toDeg: number,
  { drawtubeMm, mirrors }: { readonly drawtubeMm: number | null; readonly mirrors: 'even' | 'odd' },
): CameraTurn | null {
  const signedDeg = wrap180(2 * (toDeg - fromDeg)) / 2;
  const turnDeg = Math.abs(signedDeg);
  if (turnDeg < 1e-6) return null;
  const isCounter = signedDeg > 0 === (mirrors === 'even');
  return {
    turnDeg,
    direction: isCounter ? 'counter-clockwise' : 'clockwise',
    drawtubeMm: drawtubeMm === null ? null : (Math.PI * drawtubeMm * turnDeg) / 360,
  };
}
