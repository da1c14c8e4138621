// What hands have set in a problem, laid out for the decoder: pinned runs and the stays of the plan before.
import type { GoalRecord } from '../objective.ts';
import { exactRates } from '../objective.ts';
import type { NightProblem } from '../problem.ts';

export interface PinnedRun {
  readonly goal: number;
  readonly startsSec: readonly number[];
  /** When the next change may begin. */
  readonly endSec: number;
  /** Value of its light. */
  readonly light: number;
}

export const pinsOf = ({ pinned }: NightProblem, goals: readonly GoalRecord[]): PinnedRun[] =>
  (pinned ?? []).map(({ goal, startsSec }) => {
    const record = goals[goal];
    const light = startsSec.reduce((sum, startSec) => sum + record.value * exactRates(record, startSec, 1), 0);
    return { goal, startsSec, endSec: startsSec[startsSec.length - 1] + record.cycleSec, light };
  });

export interface KeptStay {
  readonly panel: number;
  readonly startSec: number;
  readonly endSec: number;
  /** Whether the plan being decoded keeps it. */
  isKept: boolean;
}

/** The stays of the plan before, from its runs in time order. */
export function keptStays({ kept, goals }: NightProblem): KeptStay[] {
  const stays: { panel: number; startSec: number; endSec: number; isKept: boolean }[] = [];
  for (const { goal, startSec, count } of kept?.runs ?? []) {
    const { panel, cycleSec } = goals[goal];
    const last = stays[stays.length - 1];
    const endSec = startSec + count * cycleSec;
    if (last?.panel === panel) last.endSec = endSec;
    else stays.push({ panel, startSec, endSec, isKept: false });
  }
  return stays;
}
