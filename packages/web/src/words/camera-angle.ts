import type { Rig } from '@meridiem/contract';

/** The angle that a new frame begins with: the camera's own where no motor turns it and it has been measured, else north up.
 * @returns degrees from north through east */
export const presentAngleDeg = ({ rotatorKind, skyAngleDeg }: Pick<Rig, 'rotatorKind' | 'skyAngleDeg'>): number =>
  rotatorKind === 'motor' ? 0 : (skyAngleDeg ?? 0);
