// Sums along all straight lines across a square of cells at once. Source: Brady 1998, SIAM J. Comput. 27, 107 (approximate
// discrete Radon transform): lines over two halves share their pieces, so that N² lines of N cells cost N² log N steps.

/** Sums of a square along the lines that rise by 0 to `side` − 1 cells while they cross it from left to right. */
export interface LineSums {
  /** By rise, then by the row where the line enters at the left, from −`side` to `side` − 1. */
  readonly values: Float32Array;
  readonly placeOf: (startRow: number, rise: number) => number;
}

/** @param side a power of two @param cells row by row */
export function lineSums(cells: Float32Array, side: number): LineSums {
  const rows = 2 * side;
  // By strip of columns, then rise within the strip, then row; rows below the square are rows of nothing.
  let sums = new Float32Array(side * rows);
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) sums[x * rows + side + y] = cells[y * side + x];
  for (let width = 1; width < side; width *= 2) sums = joinedInPairs(sums, width, rows);
  return { values: sums, placeOf: (startRow, rise) => rise * rows + startRow + side };
}

/** Each strip with its right neighbour: a line over both rises by as much in either, and by one more between them or not. Lines that
 * enter below the square by more than they rise meet nothing. */
function joinedInPairs(sums: Float32Array, width: number, rows: number): Float32Array<ArrayBuffer> {
  const joined = new Float32Array(sums.length);
  const strip = width * rows;
  for (let left = 0; left < sums.length; left += 2 * strip)
    for (let rise = 0; rise < 2 * width; rise++) {
      const half = rise >> 1;
      const [from, with_, to] = [left + half * rows, left + strip + half * rows, left + rise * rows];
      const shift = half + (rise & 1);
      const first = Math.max(0, rows / 2 - rise);
      for (let row = first; row < rows - shift; row++) joined[to + row] = sums[from + row] + sums[with_ + row + shift];
      for (let row = rows - shift; row < rows; row++) joined[to + row] = sums[from + row];
    }
  return joined;
}

/** The columns and rows that a line of these sums passes, from the left. */
export function lineCells(side: number, startRow: number, rise: number): Int32Array {
  const rows = new Int32Array(side);
  const walk = (column: number, width: number, row: number, up: number): void => {
    if (width === 1) return void (rows[column] = row);
    const half = up >> 1;
    walk(column, width / 2, row, half);
    walk(column + width / 2, width / 2, row + half + (up & 1), half);
  };
  walk(0, side, startRow, rise);
  return rows;
}
