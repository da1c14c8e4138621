// The best place of a focuser from star sizes on both sides of it.

export interface FocusPoint {
  readonly positionSteps: number;
  readonly halfFluxRadiusPx: number;
}

export type FocusFit =
  | { readonly isFound: true; readonly bestSteps: number; readonly bestRadiusPx: number; readonly fitShare: number }
  | { readonly isFound: false; readonly words: string };

const FEWEST_POINTS = 5;
/** Share of the spread of sizes that the curve must explain. */
const LEAST_FIT = 0.8;

/** Out of focus a star is a disc whose size grows in proportion to the distance, in focus seeing bounds it: a hyperbola,
 * whose squares are a parabola, fitted by least squares. Source: the geometry of a defocused cone. */
export function fitFocus(points: readonly FocusPoint[]): FocusFit {
  if (points.length < FEWEST_POINTS) return notFound(`only ${points.length} of ${FEWEST_POINTS} sizes were measured`);
  const middle = points.reduce((sum, { positionSteps }) => sum + positionSteps, 0) / points.length;
  const span = Math.max(...points.map(({ positionSteps }) => Math.abs(positionSteps - middle))) || 1;
  const xs = points.map(({ positionSteps }) => (positionSteps - middle) / span);
  const ys = points.map(({ halfFluxRadiusPx }) => halfFluxRadiusPx ** 2);
  const [c, b, a] = parabola(xs, ys);
  if (!(a > 0)) return notFound('the sizes have no smallest among them');
  const at = -b / (2 * a);
  if (Math.abs(at) > 1) return notFound('the best place lies beyond the places tried');
  const mean = ys.reduce((sum, y) => sum + y, 0) / ys.length;
  const left = ys.reduce((sum, y, i) => sum + (y - (c + b * xs[i] + a * xs[i] ** 2)) ** 2, 0);
  const all = ys.reduce((sum, y) => sum + (y - mean) ** 2, 0);
  const fitShare = all === 0 ? 0 : 1 - left / all;
  if (fitShare < LEAST_FIT) return notFound(`the sizes follow no curve (${Math.round(100 * fitShare)} %)`);
  return {
    isFound: true,
    bestSteps: Math.round(middle + at * span),
    bestRadiusPx: Math.sqrt(Math.max(0, c + b * at + a * at * at)),
    fitShare,
  };
}

const FEWEST_IN_ARM = 2;

/** The place where the lines through the sizes on either side of the smallest meet: asks for no curve near the focus, where
 * seeing makes it flat or bumpy. Source: as above; far from the focus the cone's edge is a line. */
export function fitFocusArms(points: readonly FocusPoint[]): FocusFit {
  if (points.length < FEWEST_POINTS) return notFound(`only ${points.length} of ${FEWEST_POINTS} sizes were measured`);
  const sorted = points.toSorted((a, b) => a.positionSteps - b.positionSteps);
  const sizes = sorted.map(({ halfFluxRadiusPx }) => halfFluxRadiusPx);
  const smallest = Math.min(...sizes);
  const at = sizes.indexOf(smallest);
  const arms = [sorted.slice(0, at), sorted.slice(at + 1)];
  if (arms.some(({ length }) => length < FEWEST_IN_ARM))
    return notFound('the best place lies at the edge of those tried');
  const [inward, outward] = arms.map(line);
  if (!(inward.slope < 0 && outward.slope > 0)) return notFound('the sizes do not grow on both sides');
  const meetSteps = (outward.start - inward.start) / (inward.slope - outward.slope);
  if (meetSteps < sorted[0].positionSteps || meetSteps > sorted.at(-1)!.positionSteps)
    return notFound('the best place lies beyond the places tried');
  const fitShare = Math.min(inward.fitShare, outward.fitShare);
  if (fitShare < LEAST_FIT) return notFound(`the sizes follow no lines (${Math.round(100 * fitShare)} %)`);
  return { isFound: true, bestSteps: Math.round(meetSteps), bestRadiusPx: smallest, fitShare };
}

/** Least squares of size over position. */
function line(points: readonly FocusPoint[]): { start: number; slope: number; fitShare: number } {
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  const xs = points.map(({ positionSteps }) => positionSteps);
  const ys = points.map(({ halfFluxRadiusPx }) => halfFluxRadiusPx);
  const [x, y] = [mean(xs), mean(ys)];
  const slope = mean(xs.map((at, i) => (at - x) * (ys[i] - y))) / mean(xs.map((at) => (at - x) ** 2));
  const start = y - slope * x;
  const all = mean(ys.map((size) => (size - y) ** 2));
  const left = mean(ys.map((size, i) => (size - start - slope * xs[i]) ** 2));
  return { start, slope, fitShare: all === 0 ? 0 : 1 - left / all };
}

const notFound = (words: string): FocusFit => ({ isFound: false, words });

/** Coefficients of 1, x, x² by the normal equations. */
function parabola(xs: readonly number[], ys: readonly number[]): [number, number, number] {
  const s = [0, 0, 0, 0, 0];
  const t = [0, 0, 0];
  xs.forEach((x, i) => {
    for (let power = 0; power < 5; power++) s[power] += x ** power;
    for (let power = 0; power < 3; power++) t[power] += ys[i] * x ** power;
  });
  const det3 = (m: readonly number[]): number =>
    m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6]);
  const whole = [s[0], s[1], s[2], s[1], s[2], s[3], s[2], s[3], s[4]];
  const det = det3(whole);
  const withColumn = (column: number): number =>
    det3(whole.map((value, i) => (i % 3 === column ? t[Math.floor(i / 3)] : value)));
  return [withColumn(0) / det, withColumn(1) / det, withColumn(2) / det];
}
