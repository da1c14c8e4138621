// Counts to hours and back, with the overhead shown apart.
import type { ExposureSettings, StepCosts } from './time-cost.ts';
import { exposureCycleSec } from './time-cost.ts';

export interface GoalTime {
  readonly exposingSec: number;
  readonly overheadSec: number;
}

/** Time that a number of exposures takes, exposing and overhead apart. */
export function goalTime(costs: StepCosts, settings: ExposureSettings, count: number): GoalTime {
  const exposingSec = count * settings.exposureSec;
  return { exposingSec, overheadSec: count * exposureCycleSec(costs, settings) - exposingSec };
}

/** The smallest count whose exposure time reaches a number of hours: 3 h at 180 s is 60. */
export const countForHours = (hours: number, exposureSec: number): number =>
  Math.max(0, Math.ceil((hours * 3600) / exposureSec - 1e-9));

/** Exposure time of a count in hours. */
export const hoursForCount = (count: number, exposureSec: number): number => (count * exposureSec) / 3600;
