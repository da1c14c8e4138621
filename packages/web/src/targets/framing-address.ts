// Addresses of the framing page for what is framed already.
import type { Project, Rig } from '@meridiem/contract';
import { gridOf, planeSides } from '@meridiem/core';

const text = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** A target framed for the first time. */
export const framingOfTarget = (
  rigId: string,
  target: {
    readonly designation: string;
    readonly raDeg: number;
    readonly decDeg: number;
    readonly sizeArcmin: number | null;
  },
): string => {
  const [ra, dec] = [text(target.raDeg, 5), text(target.decDeg, 5)];
  const size = String(target.sizeArcmin ?? '');
  return `/framing?${new URLSearchParams({ rig: rigId, target: target.designation, ra, dec, sra: ra, sdec: dec, size }).toString()}`;
};

/** A project's panels, opened again: as rows and columns where they are some, with the subject they were framed for.
 * @returns null where no panel has a place */
export function framingOfProject(
  project: Pick<Project, 'id' | 'rigId' | 'targetName' | 'composition' | 'panels'>,
  rig: Rig,
): string | null {
  const panels = project.panels.flatMap(({ raDeg, decDeg, positionAngleDeg }) =>
    raDeg === null || decDeg === null ? [] : [{ centre: { raDeg, decDeg }, positionAngleDeg }],
  );
  if (panels.length === 0) return null;
  const address = new URLSearchParams(project.composition ?? { target: project.targetName });
  address.set('rig', project.rigId);
  address.set('project', project.id);
  const grid = gridOf(panels, planeSides(rig));
  const { centre, positionAngleDeg } = grid ?? panels[0];
  address.set('ra', text(centre.raDeg, 5));
  address.set('dec', text(centre.decDeg, 5));
  address.set('angle', text(positionAngleDeg, 2));
  if (grid) {
    address.set('rows', String(grid.rows));
    address.set('cols', String(grid.cols));
    address.set('layout', grid.layout);
    if (panels.length > 1) address.set('overlap', text(100 * grid.overlapShare, 1));
  }
  return `/framing?${address.toString()}`;
}
