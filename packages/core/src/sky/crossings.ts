// When a smooth function of time passes a level: sampled, turned over at hidden extremes, then refined to a millisecond.
import type { Interval } from '../time/nights.ts';
import type { UtcMs } from '../units.ts';
import { MINUTE_MS } from '../units.ts';

export type TimeFunction = (utcMs: UtcMs) => number;
export interface Crossing {
  readonly utcMs: UtcMs;
  readonly rising: boolean;
}
export interface Extreme {
  readonly utcMs: UtcMs;
  readonly value: number;
}

const DEFAULT_STEP_MS = 10 * MINUTE_MS;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** All crossings of a level in [start, end), in order. Two crossings closer than the step are found through the extreme between them. */
export function crossingsOf(
  f: TimeFunction,
  level: number,
  { startUtcMs, endUtcMs }: Interval,
  stepMs = DEFAULT_STEP_MS,
): Crossing[] {
  const knots = withHiddenExtremes(f, sampled(f, startUtcMs, endUtcMs, stepMs), level);
  const crossings: Crossing[] = [];
  for (let i = 1; i < knots.length; i++) {
    const below = knots[i - 1].value < level;
    if (below === knots[i].value < level) continue;
    const utcMs = refined(f, level, knots[i - 1], knots[i]);
    if (utcMs < endUtcMs) crossings.push({ utcMs, rising: below });
  }
  return crossings;
}

/** The lowest (or highest) value in an interval, to a tenth of a second. */
export function extremeOf(
  f: TimeFunction,
  kind: 'lowest' | 'highest',
  { startUtcMs, endUtcMs }: Interval,
  stepMs = DEFAULT_STEP_MS,
): Extreme {
  const sign = kind === 'lowest' ? 1 : -1;
  const samples = sampled(f, startUtcMs, endUtcMs, stepMs);
  const best = samples.reduce((low, sample, i) => (sign * sample.value < sign * samples[low].value ? i : low), 0);
  const left = samples[Math.max(0, best - 1)].utcMs;
  const right = samples[Math.min(samples.length - 1, best + 1)].utcMs;
  const inner = turningPoint(f, sign, left, right);
  return sign * inner.value < sign * samples[best].value ? inner : samples[best];
}

/** Stretches of an interval in which a function stays below a level. */
export function intervalsBelow(
  f: TimeFunction,
  level: number,
  interval: Interval,
  stepMs = DEFAULT_STEP_MS,
): Interval[] {
  const edges = crossingsOf(f, level, interval, stepMs);
  const intervals: Interval[] = [];
  let openSince: UtcMs | null = f(interval.startUtcMs) < level ? interval.startUtcMs : null;
  for (const { utcMs, rising } of edges) {
    if (rising && openSince !== null) intervals.push({ startUtcMs: openSince, endUtcMs: utcMs });
    openSince = rising ? null : utcMs;
  }
  if (openSince !== null) intervals.push({ startUtcMs: openSince, endUtcMs: interval.endUtcMs });
  return intervals;
}

function sampled(f: TimeFunction, startUtcMs: UtcMs, endUtcMs: UtcMs, stepMs: number): Extreme[] {
  const count = Math.max(1, Math.ceil((endUtcMs - startUtcMs) / stepMs));
  return Array.from({ length: count + 1 }, (_, i) => {
    const utcMs = Math.min(endUtcMs, startUtcMs + i * stepMs);
    return { utcMs, value: f(utcMs) };
  });
}

/** Adds the turning point wherever three samples on one side of the level bend towards it. */
function withHiddenExtremes(f: TimeFunction, samples: readonly Extreme[], level: number): Extreme[] {
  const knots: Extreme[] = [samples[0]];
  for (let i = 1; i < samples.length; i++) {
    const previous = samples[i - 2];
    const turning = previous && hiddenExtreme(f, previous, samples[i - 1], samples[i], level);
    if (turning) insertInOrder(knots, turning);
    knots.push(samples[i]);
  }
  return knots;
}

function hiddenExtreme(f: TimeFunction, a: Extreme, b: Extreme, c: Extreme, level: number): Extreme | null {
  const below = b.value < level;
  const bendsTowardsLevel = below ? b.value >= a.value && b.value >= c.value : b.value <= a.value && b.value <= c.value;
  if (!bendsTowardsLevel || a.value < level !== below || c.value < level !== below) return null;
  const turning = turningPoint(f, below ? -1 : 1, a.utcMs, c.utcMs);
  return turning.value < level === below ? null : turning;
}

function insertInOrder(knots: Extreme[], knot: Extreme): void {
  let at = knots.length;
  while (at > 0 && knots[at - 1].utcMs > knot.utcMs) at--;
  knots.splice(at, 0, knot);
}

/** Golden-section search for the lowest value of sign · f. */
function turningPoint(f: TimeFunction, sign: number, left: UtcMs, right: UtcMs): Extreme {
  let a = left;
  let b = right;
  while (b - a > 50) {
    const x1 = b - GOLDEN * (b - a);
    const x2 = a + GOLDEN * (b - a);
    if (sign * f(x1) < sign * f(x2)) b = x2;
    else a = x1;
  }
  const utcMs = (a + b) / 2;
  return { utcMs, value: f(utcMs) };
}

/** Bracketed secant (Illinois) to one millisecond. */
function refined(f: TimeFunction, level: number, from: Extreme, to: Extreme): UtcMs {
  let [a, fa] = [from.utcMs, from.value - level];
  let [b, fb] = [to.utcMs, to.value - level];
  for (let round = 0; round < 60 && Math.abs(b - a) > 1; round++) {
    const guess = fb === fa ? (a + b) / 2 : b - (fb * (b - a)) / (fb - fa);
    const value = f(guess) - level;
    if (Math.abs(value) < 1e-9) return guess;
    if (value < 0 !== fb < 0) [a, fa] = [b, fb];
    else fa /= 2;
    [b, fb] = [guess, value];
  }
  return b;
}
