// Where a row points: its own place, or for a target that moves the place of its newest orbit at the moment.
import type { Orbit, Site, SkyPosition } from '@meridiem/core';
import { movingPlace } from '@meridiem/core';

export interface Pointed {
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly orbit: Orbit | null;
}

/** The newest orbit of a project's target, for a query that has the project as `alias`. */
export const orbitOf = (alias: string): string =>
  `(SELECT o.elements FROM orbits o WHERE o.target_id = ${alias}.target_id ORDER BY o.seq DESC LIMIT 1)`;

export function placeOf({ raDeg, decDeg, orbit }: Pointed, site: Site, utcMs: number): SkyPosition | null {
  if (orbit) return movingPlace(orbit, utcMs, site).position;
  return raDeg === null || decDeg === null ? null : { raDeg, decDeg };
}

/** Rows with the place of a moment in place of what moves. */
export const placedRows = <T extends Pointed>(rows: readonly T[], site: Site, utcMs: number): T[] =>
  rows.map((row) => (row.orbit ? { ...row, ...placeOf(row, site, utcMs)! } : row));
