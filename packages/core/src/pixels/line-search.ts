// The brightest straight line of a picture's cells, in whichever direction.
import { lineCells, lineSums } from './line-sums.ts';
import type { SkyCells } from './sky-cells.ts';

/** Of half a million lines chance makes none this bright; what is left of bright stars must not either. */
export const LEAST_SIGMAS = 8;
const LEAST_LENGTH_SHARE = 0.3;

/** A way of laying a square of cells so that every line rises by at most its side from left to right: across the columns or down the
 * rows, each as it is or turned over. */
interface Lay {
  readonly side: number;
  readonly isDown: boolean;
  readonly isTurned: boolean;
}
const laysOf = (side: number): Lay[] =>
  [false, true].flatMap((isDown) => [false, true].map((isTurned) => ({ side, isDown, isTurned })));

/** A line of cells. */
export interface Line {
  readonly lay: Lay;
  readonly startRow: number;
  readonly rise: number;
  readonly sigmas: number;
}

function placeIn({ side, isDown, isTurned }: Lay, along: number, beside: number): number {
  const row = isTurned ? side - 1 - beside : beside;
  return isDown ? along * side + row : row * side + along;
}

function laid(values: Float32Array, lay: Lay): Float32Array {
  const turned = new Float32Array(values.length);
  const { side } = lay;
  for (let beside = 0; beside < side; beside++)
    for (let along = 0; along < side; along++) turned[beside * side + along] = values[placeIn(lay, along, beside)];
  return turned;
}

interface Span {
  readonly from: number;
  readonly to: number;
}

/** Where, along and beside, the cells lie that are looked at. */
function spansOf({ across, down, margin }: SkyCells, { side, isDown, isTurned }: Lay): { along: Span; beside: Span } {
  const [wide, high] = [
    { from: margin, to: across - margin },
    { from: margin, to: down - margin },
  ];
  const [along, beside] = isDown ? [high, wide] : [wide, high];
  return { along, beside: isTurned ? { from: side - beside.to, to: side - beside.from } : beside };
}

/** How many of the cells that are looked at a line passes, to within one. */
function lengthOn(
  { along, beside }: { along: Span; beside: Span },
  side: number,
  startRow: number,
  rise: number,
): number {
  const step = rise / (side - 1);
  const enters = step === 0 ? (startRow >= beside.from ? 0 : Infinity) : (beside.from - startRow) / step;
  const leaves = step === 0 ? (startRow < beside.to ? side : 0) : (beside.to - startRow) / step;
  return Math.min(along.to, leaves) - Math.max(along.from, enters);
}

/** The brightest of all straight lines across a good part of the picture, for its length.
 * @returns null where none is bright enough */
export function brightestLine(cells: SkyCells): Line | null {
  const leastCells = LEAST_LENGTH_SHARE * Math.min(cells.across - 2 * cells.margin, cells.down - 2 * cells.margin);
  let best: Line | null = null;
  const { side } = cells;
  for (const lay of laysOf(side)) {
    const light = lineSums(laid(cells.sigmas, lay), side);
    const spans = spansOf(cells, lay);
    for (let rise = 0; rise < side; rise++) {
      const first = light.placeOf(0, rise);
      for (let startRow = -rise; startRow < side; startRow++) {
        const sum = light.values[first + startRow];
        // Lines without much light are most of them, and not worth a closer look.
        if (sum < (best?.sigmas ?? LEAST_SIGMAS) * Math.sqrt(leastCells)) continue;
        const length = lengthOn(spans, side, startRow, rise);
        if (length < leastCells) continue;
        const sigmas = sum / Math.sqrt(length);
        if (sigmas > (best?.sigmas ?? LEAST_SIGMAS)) best = { lay, startRow, rise, sigmas };
      }
    }
  }
  return best;
}

/** The cells that a line passes within the square, from its left end, and as many beside it. */
export function placesOf({ lay, startRow, rise }: Line, besideCells = 0): number[] {
  const places: number[] = [];
  lineCells(lay.side, startRow, rise).forEach((row, column) => {
    const beside = row + besideCells;
    if (beside >= 0 && beside < lay.side) places.push(placeIn(lay, column, beside));
  });
  return places;
}

/** So that the next line looked for is another one. */
export function clearLine({ sigmas, isUsed }: SkyCells, line: Line, reach: number): void {
  for (let beside = -reach; beside <= reach; beside++)
    for (const place of placesOf(line, beside)) sigmas[place] = isUsed[place] = 0;
}
