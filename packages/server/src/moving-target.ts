// Where a row points: its own place, or for a target that moves the place of its newest orbit at the moment.
import type { ObservingNight, Orbit, Site, SkyPosition } from '@meridiem/core';
import { movingPlace } from '@meridiem/core';

export interface Pointed {
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly orbit: Orbit | null;
}

export function placeOf({ raDeg, decDeg, orbit }: Pointed, site: Site, utcMs: number): SkyPosition | null {
  if (orbit) return movingPlace(orbit, utcMs, site).position;
  return raDeg === null || decDeg === null ? null : { raDeg, decDeg };
}

/** Rows with the place of a moment in place of what moves. */
export const placedRows = <T extends Pointed>(rows: readonly T[], site: Site, utcMs: number): T[] =>
  rows.map((row) => (row.orbit ? { ...row, ...placeOf(row, site, utcMs)! } : row));

/** The same for the middle of a night: plans of it see one place, however often they are asked for. */
export const placedInNight = <T extends Pointed>(rows: readonly T[], site: Site, night: ObservingNight): T[] =>
  placedRows(rows, site, (night.startUtcMs + night.endUtcMs) / 2);
