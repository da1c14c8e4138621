// What a rig's steps have really taken, in the terms in which plans count them.
import type { StepCosts } from '../exposure/time-cost.ts';
import type { StepKind } from './steps.ts';

export interface MeasuredStep {
  readonly kind: StepKind;
  readonly medianSec: number;
  readonly count: number;
}

export interface MeasuredCost {
  readonly key: keyof StepCosts;
  readonly sec: number;
  /** Of the rarest of the steps that it is made of. */
  readonly count: number;
}

/** Steps that each cost is made of, one after the other. */
const MADE_OF: readonly (readonly [keyof StepCosts, readonly StepKind[]])[] = [
  ['centreSec', ['solve', 'centre']],
  ['guidingStartSec', ['guide', 'settle']],
  ['filterChangeSec', ['filter']],
  ['autofocusSec', ['focus']],
  ['ditherSec', ['dither', 'settle']],
  ['downloadSec', ['download']],
];
/** Fewer say nothing. */
const FEWEST = 5;

/** Costs of which every step was measured often enough; medians of steps are added up. */
export function measuredCosts(steps: readonly MeasuredStep[]): MeasuredCost[] {
  const of = new Map(steps.map((step) => [step.kind, step]));
  return MADE_OF.flatMap(([key, kinds]) => {
    const parts = kinds.map((kind) => of.get(kind));
    if (parts.some((part) => !part || part.count < FEWEST)) return [];
    const sec = parts.reduce((sum, part) => sum + part!.medianSec, 0);
    return [{ key, sec, count: Math.min(...parts.map((part) => part!.count)) }];
  });
}
