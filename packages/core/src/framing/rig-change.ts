// What a changed rig does to panels that are framed already: their field, what neighbours share, and whether the camera's angle still serves.
import type { SkyPosition } from '../sky/site.ts';
import { angleApartDeg } from './angle.ts';
import { coverageOf } from './coverage.ts';
import type { Optics } from './field.ts';
import { fieldOf } from './field.ts';

export interface FramedPanel {
  readonly position: SkyPosition;
  readonly positionAngleDeg: number;
}

/** The smallest share of its field that any panel has in common with its nearest neighbour, [0, 1]; null for a single panel. */
export function leastShared(panels: readonly FramedPanel[], optics: Optics): number | null {
  if (panels.length < 2) return null;
  const { widthDeg, heightDeg } = fieldOf(optics);
  const fields = panels.map(({ position, positionAngleDeg }) => ({
    centre: position,
    positionAngleDeg,
    widthDeg,
    heightDeg,
  }));
  return Math.min(
    ...fields.map((field, i) => Math.max(...fields.map((other, j) => (i === j ? 0 : coverageOf(field, other))))),
  );
}

export interface CameraTurning {
  readonly rotatorKind: 'motor' | 'hand' | 'none';
  /** The camera's angle on the sky now; null where nobody has measured it. */
  readonly skyAngleDeg: number | null;
  readonly angleToleranceDeg: number;
}

/** Whether a panel can be taken with the camera as it stands; a motor turns it wherever it is wanted. */
export function angleServes(
  { rotatorKind, skyAngleDeg, angleToleranceDeg }: CameraTurning,
  wantedDeg: number,
): boolean {
  if (rotatorKind === 'motor') return true;
  return skyAngleDeg !== null && angleApartDeg(skyAngleDeg, wantedDeg) <= angleToleranceDeg;
}
