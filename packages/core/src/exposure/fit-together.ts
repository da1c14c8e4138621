// How many exposures of several filters fit into the same nights, shared as they are wanted.
import type { Interval } from '../time/nights.ts';

export interface FittedRow {
  /** Between the starts of two exposures, seconds. */
  readonly cycleSec: number;
  /** Exposures wanted against those of the other rows, above 0. */
  readonly share: number;
}

/** When each row is open in one night, in the order of the rows. */
export type OpenStretches = readonly (readonly Interval[])[];

export interface FitCosts {
  /** Paid once in each night that is used. */
  readonly arrivalSec: number;
  /** Paid for each filter after the first in a night. */
  readonly filterChangeSec: number;
}

/** Rows beyond this are more than a wheel holds. */
export const MOST_FITTED_ROWS = 12;

/** Counts in the wanted proportion that can all be taken: by Gale's condition they can where every set of rows asks for no
 * more than the time in which at least one of its rows is open. What rounding leaves is filled one by one.
 * Source: D. Gale, "A theorem on flows in networks", Pacific J. Math. 7 (1957), 1073.
 * @returns a count for each row; 0 where it is never open */
export function fitTogether(rows: readonly FittedRow[], nights: readonly OpenStretches[], costs: FitCosts): number[] {
  if (rows.length > MOST_FITTED_ROWS) throw new RangeError(`at most ${MOST_FITTED_ROWS} rows can be fitted together`);
  const roomSec = roomOfSets(rows.length, nights, costs);
  const isOpen = rows.map((_, i) => roomSec[1 << i] > 0);
  const asks = (set: number, ofRow: (row: FittedRow, i: number) => number): number =>
    rows.reduce((sum, row, i) => (set & (1 << i) && isOpen[i] ? sum + ofRow(row, i) * row.cycleSec : sum), 0);
  let scale = Number.POSITIVE_INFINITY;
  for (let set = 1; set < roomSec.length; set++) {
    const asked = asks(set, ({ share }) => share);
    if (asked > 0) scale = Math.min(scale, roomSec[set] / asked);
  }
  const counts = rows.map(({ share }, i) => (isOpen[i] ? Math.floor(scale * share + 1e-9) : 0));
  const fits = (): boolean => roomSec.every((room, set) => asks(set, (_, i) => counts[i]) <= room + 1e-6);
  for (const [i, { share }] of [...rows.entries()].sort(([, a], [, b]) => b.share - a.share)) {
    if (!isOpen[i] || share <= 0) continue;
    counts[i] += 1;
    if (!fits()) counts[i] -= 1;
  }
  return counts;
}

/** For every set of rows, as bits: seconds in which at least one of them is open, less what moving there costs. */
function roomOfSets(rowCount: number, nights: readonly OpenStretches[], costs: FitCosts): Float64Array {
  const room = new Float64Array(1 << rowCount);
  for (const night of nights) {
    const pieces = openPieces(night);
    const openTonight = pieces.reduce((all, { rows }) => all | rows, 0);
    for (let set = 1; set < room.length; set++) {
      const open = pieces.reduce((sum, piece) => (piece.rows & set ? sum + piece.lengthSec : sum), 0);
      const changes = Math.max(0, bitsIn(set & openTonight) - 1) * costs.filterChangeSec;
      room[set] += Math.max(0, open - costs.arrivalSec - changes);
    }
  }
  return room;
}

/** A night cut where some row opens or closes, with the rows open in each piece, as bits. */
function openPieces(night: OpenStretches): { rows: number; lengthSec: number }[] {
  const cuts = [...new Set(night.flatMap((row) => row.flatMap(({ startUtcMs, endUtcMs }) => [startUtcMs, endUtcMs])))];
  cuts.sort((a, b) => a - b);
  return cuts.slice(1).map((endUtcMs, i) => {
    const middle = (cuts[i] + endUtcMs) / 2;
    const isOpen = ({ startUtcMs, endUtcMs: closes }: Interval): boolean => startUtcMs < middle && middle < closes;
    const rows = night.reduce((open, row, bit) => (row.some(isOpen) ? open | (1 << bit) : open), 0);
    return { rows, lengthSec: (endUtcMs - cuts[i]) / 1000 };
  });
}

function bitsIn(set: number): number {
  let count = 0;
  for (let rest = set; rest > 0; rest >>= 1) count += rest & 1;
  return count;
}
