// Rules over a sampled night to windows (every limit met) and gaps (which limit fails, with its numbers). Edges to better than a second.
import type { Interval } from '../time/nights.ts';
import type { Circumstances, ObstacleCode, Rule } from './obstacles.ts';

/** Why nothing can be exposed in a stretch of the night. */
export interface Gap extends Interval {
  readonly code: ObstacleCode;
  readonly origin: Rule['origin'];
  readonly limit: number;
  /** The rule's number where it comes nearest to passing. */
  readonly best: number;
  /** The rule's number where it fails most. */
  readonly worst: number;
}

export interface NightWindows {
  readonly windows: readonly Interval[];
  readonly gaps: readonly Gap[];
}

/** Circumstances as functions of the sample number, fractions allowed. */
export interface SampledCircumstances {
  readonly length: number;
  readonly at: (sample: number) => Circumstances;
}

const BISECTIONS = 9;
const PASSES = -1;

/** Windows and gaps of one goal. A stretch in which several rules fail is reported under the first of them. */
export function windowsOf(samples: SampledCircumstances, rules: readonly Rule[]): NightWindows {
  const failing = (sample: number): number => {
    const at = samples.at(sample);
    return rules.findIndex((rule) => !(rule.margin(at) >= 0));
  };
  const windows: Interval[] = [];
  const gaps: Gap[] = [];
  let current = failing(0);
  let openedAt = 0;
  const close = (sample: number): void => {
    const interval = { startUtcMs: samples.at(openedAt).utcMs, endUtcMs: samples.at(sample).utcMs };
    if (interval.endUtcMs <= interval.startUtcMs) return;
    if (current === PASSES) windows.push(interval);
    else gaps.push(gapOf(samples, rules[current], interval, openedAt, sample));
  };
  for (let i = 1; i < samples.length; i++) {
    let next = failing(i);
    let from = i - 1;
    while (next !== current) {
      const edge = changeBetween(failing, current, from, i);
      close(edge.last);
      [current, openedAt, from] = [edge.next, edge.first, edge.first];
      next = failing(i);
      if (edge.first >= i) break;
    }
  }
  close(samples.length - 1);
  return { windows, gaps };
}

/** A sixty-fourth of a sample is near enough for what many places are compared by. */
const COARSE_BISECTIONS = 6;

/** Windows alone, without asking what fails in between: for when many places are looked at. */
export function passingStretches(samples: SampledCircumstances, rules: readonly Rule[]): Interval[] {
  const passes = (sample: number): boolean => {
    const at = samples.at(sample);
    for (const rule of rules) if (!(rule.margin(at) >= 0)) return false;
    return true;
  };
  const edge = (passing: number, failing: number): number => {
    let [inside, outside] = [passing, failing];
    for (let round = 0; round < COARSE_BISECTIONS; round++) {
      const middle = (inside + outside) / 2;
      if (passes(middle)) inside = middle;
      else outside = middle;
    }
    return samples.at(inside).utcMs;
  };
  const stretches: Interval[] = [];
  let openedUtcMs: number | null = null;
  for (let i = 0; i < samples.length; i++) {
    if (passes(i)) openedUtcMs ??= i === 0 ? samples.at(0).utcMs : edge(i, i - 1);
    else if (openedUtcMs !== null) {
      stretches.push({ startUtcMs: openedUtcMs, endUtcMs: edge(i - 1, i) });
      openedUtcMs = null;
    }
  }
  if (openedUtcMs !== null) stretches.push({ startUtcMs: openedUtcMs, endUtcMs: samples.at(samples.length - 1).utcMs });
  return stretches;
}

/** Where the first failing rule stops being `current`, by halving; the side that passes is kept outside the gap. */
function changeBetween(failing: (sample: number) => number, current: number, from: number, to: number) {
  let last = from;
  let first = to;
  let next = failing(to);
  for (let round = 0; round < BISECTIONS; round++) {
    const middle = (last + first) / 2;
    const code = failing(middle);
    if (code === current) last = middle;
    else [first, next] = [middle, code];
  }
  return current === PASSES ? { last, first: last, next } : { last: first, first, next };
}

function gapOf(samples: SampledCircumstances, rule: Rule, interval: Interval, from: number, to: number): Gap {
  let best = { margin: -Infinity, actual: NaN };
  let worst = { margin: Infinity, actual: NaN };
  const look = (sample: number): void => {
    const at = samples.at(sample);
    const margin = rule.margin(at);
    if (margin > best.margin) best = { margin, actual: rule.actual(at) };
    if (margin < worst.margin) worst = { margin, actual: rule.actual(at) };
  };
  for (let sample = Math.ceil(from); sample <= Math.floor(to); sample++) look(sample);
  look((from + to) / 2);
  return {
    ...interval,
    code: rule.code,
    origin: rule.origin,
    limit: rule.limit,
    best: best.actual,
    worst: worst.actual,
  };
}

/** Total length of windows in hours. */
export const windowHours = (windows: readonly Interval[]): number =>
  windows.reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / 3_600_000, 0);
