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

/** By the name of a time; one that no plan counts is left out. */
interface MeasuredTime {
  readonly key: string;
  readonly sec: number;
}

/** A rig's times with those that were measured in their place, in whole seconds; null where they are set so already. */
export function costsMeasured(costs: StepCosts, measured: readonly MeasuredTime[]): StepCosts | null {
  return inPlace(costs, measured, 0);
}

/** Below a second and this share no plan changes by it. */
const WORTH_SHARE = 0.05;

/** As `costsMeasured`, for a rig that learns by itself: null where nothing has changed that is worth another revision. */
export const learnedCosts = (costs: StepCosts, measured: readonly MeasuredTime[]): StepCosts | null =>
  inPlace(costs, measured, WORTH_SHARE);

function inPlace(costs: StepCosts, measured: readonly MeasuredTime[], worthShare: number): StepCosts | null {
  const known = measured.filter(({ key }) => key in costs);
  const next = { ...costs, ...Object.fromEntries(known.map(({ key, sec }) => [key, Math.round(sec)])) };
  const isWorth = known.some(
    ({ key, sec }) =>
      Math.abs(costs[key as keyof StepCosts] - Math.round(sec)) > worthShare * costs[key as keyof StepCosts],
  );
  return isWorth ? next : null;
}
