// The sky under the stars: level and noise of a picture, cell by cell.

export interface Picture {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Row by row. */
  readonly pixels: ArrayLike<number>;
}

export interface SkyBackground {
  /** Of the whole picture: the median of its cells, in the picture's units. */
  readonly level: number;
  /** Standard deviation of a pixel of empty sky. */
  readonly noise: number;
  readonly levelAt: (x: number, y: number) => number;
}

const CELL_PX = 64;
const CLIP_SIGMA = 3;
const CLIP_ROUNDS = 3;
/** Of normal noise cut at three standard deviations, against the whole. */
const CLIPPED_SHARE = 0.98658;
/** Between the quartiles of normal noise lie so many standard deviations. */
const QUARTILES_TO_SIGMA = 1.349;
const SAMPLE = 1024;

/** Level and noise from cells of 64 pixels, stars clipped away; between the middles of cells the level runs straight. */
export function skyBackground({ widthPx, heightPx, pixels }: Picture): SkyBackground {
  const [across, down] = [Math.max(1, Math.round(widthPx / CELL_PX)), Math.max(1, Math.round(heightPx / CELL_PX))];
  const levels = new Float64Array(across * down);
  const noises = new Float64Array(across * down);
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [x0, x1] = [Math.floor((i * widthPx) / across), Math.floor(((i + 1) * widthPx) / across)];
      const [y0, y1] = [Math.floor((j * heightPx) / down), Math.floor(((j + 1) * heightPx) / down)];
      [levels[j * across + i], noises[j * across + i]] = clippedMedian(
        cellSample({ widthPx, pixels }, { x0, x1, y0, y1 }),
      );
    }
  return {
    level: sortedMedian(levels.slice()),
    noise: sortedMedian(noises.slice()),
    levelAt: levelBetween(levels, { across, down, widthPx, heightPx }),
  };
}

interface CellGrid {
  readonly across: number;
  readonly down: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Straight between the middles of cells. Asked for every pixel around every star: nothing is made on the way. */
function levelBetween(levels: Float64Array, { across, down, widthPx, heightPx }: CellGrid): SkyBackground['levelAt'] {
  return (x, y) => {
    const cellX = Math.min(across - 1, Math.max(0, ((x + 0.5) * across) / widthPx - 0.5));
    const cellY = Math.min(down - 1, Math.max(0, ((y + 0.5) * down) / heightPx - 0.5));
    const [left, top] = [Math.floor(cellX), Math.floor(cellY)];
    const [u, v] = [cellX - left, cellY - top];
    const [right, row] = [Math.min(across - 1, left + 1), top * across];
    const below = Math.min(down - 1, top + 1) * across;
    const upper = levels[row + left] * (1 - u) + levels[row + right] * u;
    return upper * (1 - v) + (levels[below + left] * (1 - u) + levels[below + right] * u) * v;
  };
}

interface Cell {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}

/** About a thousand of a cell's pixels, evenly: enough for its median to a thirtieth of the noise. */
function cellSample({ widthPx, pixels }: Pick<Picture, 'widthPx' | 'pixels'>, { x0, x1, y0, y1 }: Cell): Float64Array {
  const step = Math.max(1, Math.round(Math.sqrt(((x1 - x0) * (y1 - y0)) / SAMPLE)));
  const sample = new Float64Array(Math.ceil((x1 - x0) / step) * Math.ceil((y1 - y0) / step));
  let k = 0;
  for (let y = y0; y < y1; y += step) for (let x = x0; x < x1; x += step) sample[k++] = pixels[y * widthPx + x];
  return sample;
}

/** Median and noise of values, what lies far above or below left out. */
function clippedMedian(values: Float64Array): [level: number, noise: number] {
  let kept = values.sort();
  for (let round = 0; ; round++) {
    const level = evenMedian(kept);
    const quarter = kept.length >> 2;
    const noise = (kept[kept.length - 1 - quarter] - kept[quarter]) / QUARTILES_TO_SIGMA;
    if (noise === 0) return [level, noise];
    const from = lowerBound(kept, level - CLIP_SIGMA * noise);
    const to = lowerBound(kept, level + CLIP_SIGMA * noise);
    if (to - from < 8) return [level, noise];
    if (round === CLIP_ROUNDS || to - from === kept.length) return [level, clippedDeviation(kept.subarray(from, to))];
    kept = kept.subarray(from, to);
  }
}

/** The standard deviation of normal noise from what lies within three of them: finer than one by medians, where whole numbers
 * leave few steps. */
function clippedDeviation(kept: Float64Array): number {
  let [sum, squares] = [0, 0];
  for (const value of kept) sum += value;
  const mean = sum / kept.length;
  for (const value of kept) squares += (value - mean) ** 2;
  return Math.sqrt(squares / kept.length) / CLIPPED_SHARE;
}

/** The median of whole numbers as if each stood for the values half a step around it. */
function evenMedian(sorted: Float64Array): number {
  const middle = middleOf(sorted);
  if (!Number.isInteger(middle)) return middle;
  const [from, to] = [
    lowerBound(sorted, middle),
    lowerBound(sorted, middle + Number.EPSILON * Math.max(1, middle) * 2),
  ];
  return to - from < 2 ? middle : middle - 0.5 + (sorted.length / 2 - from) / (to - from);
}

/** Sorts what it is given. */
export const sortedMedian = (values: Float64Array): number => (values.length === 0 ? 0 : middleOf(values.sort()));

const middleOf = (sorted: Float64Array): number => {
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
};

function lowerBound(sorted: Float64Array, limit: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < limit) low = middle + 1;
    else high = middle;
  }
  return low;
}
