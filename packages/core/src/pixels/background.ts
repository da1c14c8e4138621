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
export function skyBackground(picture: Picture): SkyBackground {
  const cells = cellsOf(picture);
  const levels = new Float64Array(cells.length);
  const noises = new Float64Array(cells.length);
  cells.forEach((cell, i) => ([levels[i], noises[i]] = clippedMedian(cellSample(picture, cell))));
  return skyOf(picture, levels, sortedMedian(noises));
}

/** The same once more from all pixels that no star lights: the wings of stars would raise a dark sky by a tenth of an electron.
 * @param sky of the picture with its stars @param isLit 0 where it is dark, for every pixel */
export function skyBetween(picture: Picture, sky: SkyBackground, isLit: Uint8Array): SkyBackground {
  const isWhole = holdsWholeNumbers(picture);
  const levels = cellsOf(picture).map((cell) => darkLevel(picture, { cell, sky, isLit, isWhole }));
  return skyOf(picture, Float64Array.from(levels), sky.noise);
}

function skyOf(picture: Picture, levels: Float64Array, noise: number): SkyBackground {
  return { level: sortedMedian(levels.slice()), noise, levelAt: levelBetween(levels, cellGrid(picture)) };
}

interface CellGrid {
  readonly across: number;
  readonly down: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

const cellGrid = ({ widthPx, heightPx }: Picture): CellGrid => ({
  across: Math.max(1, Math.round(widthPx / CELL_PX)),
  down: Math.max(1, Math.round(heightPx / CELL_PX)),
  widthPx,
  heightPx,
});

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

/** Row by row. */
function cellsOf(picture: Picture): Cell[] {
  const { across, down, widthPx, heightPx } = cellGrid(picture);
  return Array.from({ length: across * down }, (_, at) => {
    const [i, j] = [at % across, Math.floor(at / across)];
    const edge = (part: number, parts: number, wholePx: number): number => Math.floor((part * wholePx) / parts);
    return {
      ...{ x0: edge(i, across, widthPx), x1: edge(i + 1, across, widthPx) },
      ...{ y0: edge(j, down, heightPx), y1: edge(j + 1, down, heightPx) },
    };
  });
}

/** About a thousand of a cell's pixels, evenly: enough for its median to a thirtieth of the noise. */
function cellSample({ widthPx, pixels }: Picture, { x0, x1, y0, y1 }: Cell): Float64Array {
  const step = Math.max(1, Math.round(Math.sqrt(((x1 - x0) * (y1 - y0)) / SAMPLE)));
  const sample = new Float64Array(Math.ceil((x1 - x0) / step) * Math.ceil((y1 - y0) / step));
  let k = 0;
  for (let y = y0; y < y1; y += step) for (let x = x0; x < x1; x += step) sample[k++] = pixels[y * widthPx + x];
  return sample;
}

/** A cell that stars fill but for less than this keeps the level measured with them. */
const LEAST_DARK_SHARE = 0.2;
const STEPS = 256;

interface DarkCell {
  readonly cell: Cell;
  readonly sky: SkyBackground;
  readonly isLit: Uint8Array;
  readonly isWhole: boolean;
}

/** Looked at evenly: single pixels of any picture may be 0. */
function holdsWholeNumbers({ pixels }: Picture): boolean {
  const step = Math.max(1, Math.floor(pixels.length / SAMPLE));
  for (let at = 0; at < pixels.length; at += step) if (!Number.isInteger(pixels[at])) return false;
  return true;
}

/** The median of a cell's dark pixels by counting them in fine steps. */
function darkLevel({ widthPx, pixels }: Picture, { cell, sky, isLit, isWhole }: DarkCell): number {
  const { x0, x1, y0, y1 } = cell;
  const level = sky.levelAt((x0 + x1 - 1) / 2, (y0 + y1 - 1) / 2);
  // Whole numbers fall into whole steps, each standing for the values half a count around it.
  const fine = (2 * CLIP_SIGMA * sky.noise) / STEPS;
  const step = isWhole ? Math.ceil(fine) : fine;
  if (step === 0) return level;
  const from = isWhole ? Math.round(level - CLIP_SIGMA * sky.noise) - 0.5 : level - CLIP_SIGMA * sky.noise;
  const counts = new Uint32Array(STEPS + 2);
  const steps = Math.min(counts.length, Math.ceil((2 * CLIP_SIGMA * sky.noise) / step));
  let all = 0;
  for (let y = y0; y < y1; y++)
    for (let at = y * widthPx + x0; at < y * widthPx + x1; at++) {
      const i = Math.floor((pixels[at] - from) / step);
      if (i < 0 || i >= steps || isLit[at]) continue;
      counts[i]++;
      all++;
    }
  if (all < LEAST_DARK_SHARE * (x1 - x0) * (y1 - y0)) return level;
  let [below, i] = [0, 0];
  while (below + counts[i] < all / 2) below += counts[i++];
  return from + step * (i + (all / 2 - below) / counts[i]);
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
