// Omissions, blocks and standing to the one Reason shape that pages put into words.
import type { Chance, Reason } from '@meridiem/contract';
import type { Gap, NightPlan, Omission, PlannedRun } from '@meridiem/core';
import { doneShare, windowHours } from '@meridiem/core';
import type { SurveyedGoal } from '../../jobs/plan-job.ts';
import type { GoalRow } from './goals-repository.ts';
import { standingReason } from './request.ts';

const EMPTY: Omit<Reason, 'code'> = { limit: null, best: null, worst: null, origin: null, rival: null, interval: null };
const plainReason = (code: string, numbers: Partial<Reason> = {}): Reason => ({ ...EMPTY, code, ...numbers });

const gapReason = ({ code, limit, best, worst, origin, startUtcMs, endUtcMs }: Gap): Reason =>
  plainReason(code, { limit, best, worst, origin, interval: { startUtcMs, endUtcMs } });

/** Why a goal is not in a plan, by everything known of it. */
export function reasonOf(row: GoalRow, omission: Omission, nameOf: (goalId: string) => string): Reason {
  const standing = standingReason(row);
  if (standing) return plainReason(standing);
  switch (omission.code) {
    case 'NOTHING_LEFT':
      return plainReason(doneShare(row, row.counting) >= 1 ? 'COMPLETE' : 'AWAITING_VERDICTS', { best: row.undecided });
    case 'WITH_ANOTHER':
      return plainReason('WITH_ANOTHER', { rival: nameOf(omission.leadGoalId) });
    case 'NO_WINDOW':
      return omission.gap ? gapReason(omission.gap) : plainReason('SUN_BOUND');
    case 'WINDOW_TOO_SHORT':
      return plainReason('WINDOW_TOO_SHORT', { best: omission.longestSec, limit: omission.neededSec });
    case 'OUTBID':
      return plainReason('OUTBID', {
        best: omission.ownPerHour,
        worst: omission.rivalPerHour,
        rival: omission.rivalGoalId && nameOf(omission.rivalGoalId),
      });
    case 'LEFT_OUT_BY_HAND':
    case 'HELD_BY_HAND':
      return plainReason(omission.code);
    case 'NO_POSITION':
    case 'ANGLE_UNKNOWN':
    case 'OTHER_PANEL':
    case 'CAMERA_ANGLE':
      return plainReason(omission.code, { worst: omission.actual, limit: omission.limit });
  }
}

/** What a night holds for one goal. */
export function chanceOf(
  row: GoalRow,
  plan: NightPlan,
  surveyed: SurveyedGoal | undefined,
  nameOf: (goalId: string) => string,
): Chance {
  const runs: readonly PlannedRun[] = plan.blocks.flatMap((block) =>
    block.runs.filter((run) => run.goalId === row.goalId),
  );
  const windows = surveyed && !surveyed.blocked ? [...surveyed.windows] : [];
  const omission = plan.omissions.find((candidate) => candidate.goalId === row.goalId);
  return {
    windows,
    usableHours: windowHours(windows),
    planned: runs.reduce((sum, run) => sum + run.exposureStartsUtcMs.length, 0),
    plannedEndUtcMs: runs.length === 0 ? null : runs[runs.length - 1].endUtcMs,
    reason: omission ? reasonOf(row, omission, nameOf) : null,
  };
}
