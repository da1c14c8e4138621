// A plan in goal and panel ids to one in names, curves and counts, for the Tonight page.
import type { FilterClass, LeftOut, NightRun, NightSky, Observatory, PlanName, Rig, RigPlan } from '@meridiem/contract';
import { hoursOfPlan, shownBlocks } from '@meridiem/contract';
import type { NightPlan, ReserveGoal, StoredLimit } from '@meridiem/core';
import { DEFAULT_ARRIVAL, limitsInForce, stayChain } from '@meridiem/core';
import { RESERVED } from '../../privacy.ts';
import type { GoalRow } from './goals-repository.ts';
import { keptDarkness } from '../nights/index.ts';
import { reasonOf } from './reasons.ts';

export interface ShownPlan {
  readonly observatory: Observatory;
  readonly rig: Rig;
  readonly sky: NightSky;
  readonly rows: readonly GoalRow[];
  readonly plan: NightPlan;
  readonly state: RigPlan['state'];
  readonly published: { seq: number; publishedUtcMs: number; stale: boolean } | null;
  readonly taken: readonly { goalId: string; startUtcMs: number }[];
  readonly run: NightRun | null;
  readonly wishes: RigPlan['wishes'];
  readonly automaticValue: number | null;
  readonly versions: RigPlan['versions'];
  readonly cutOffUtcMs: number;
  readonly reserve: readonly ReserveGoal[];
}

/** Reasons that are no news on a list of what is left out tonight. */
const SILENT = ['COMPLETE', 'NOT_GRANTED', 'SWITCHED_OFF'];

export function rigPlan(shown: ShownPlan): RigPlan {
  const { observatory, rig, sky, rows, plan, taken, published, run, state } = shown;
  const { wishes, automaticValue, versions, cutOffUtcMs } = shown;
  return {
    rigId: rig.id,
    rigName: rig.name,
    devices: rig.devices,
    state,
    seq: published?.seq ?? null,
    publishedUtcMs: published?.publishedUtcMs ?? null,
    stale: published?.stale ?? false,
    value: plan.value,
    ...hoursOfPlan(plan),
    blocks: shownBlocks({
      site: observatory,
      flips: rig.mountKind === 'german_equatorial',
      sky,
      names: rows.map(planName),
      plan,
      taken,
      chain: (panelId, { before, after, isLast }) =>
        stayChain({
          switches: rows.find((row) => row.panelId === panelId)?.arrival ?? DEFAULT_ARRIVAL,
          rotates: rig.rotatorKind === 'motor',
          own: rig.steps,
          waitsBefore: before,
          waitsAfter: after,
          parking: isLast ? rig : null,
        }),
    }),
    leftOut: leftOut(shown),
    usable: usableDarkness(shown),
    run,
    wishes,
    automaticValue,
    versions,
    cutOffUtcMs,
    reserve: reserve(shown),
  };
}

export const planName = (row: GoalRow): PlanName => ({
  goalId: row.goalId,
  panelId: row.panelId,
  panelName: row.panelName,
  projectId: row.projectId,
  projectName: row.projectName,
  ownerName: row.ownerName,
  filterLetter: row.filterLetter,
  filterClass: row.filterClass,
  groupOf: row.filterGroup,
  raDeg: row.raDeg,
  decDeg: row.decDeg,
});

function reserve({ rows, reserve: goals }: ShownPlan): RigPlan['reserve'] {
  return goals.flatMap((goal) => {
    const row = rows.find(({ goalId }) => goalId === goal.goalId);
    if (!row || row.projectName === RESERVED) return [];
    const { projectId, projectName, panelName, filterLetter, filterClass } = row;
    return [{ ...goal, projectId, projectName, panelName, filterLetter, filterClass }];
  });
}

function leftOut({ rows, plan }: ShownPlan): LeftOut[] {
  const nameOf = (goalId: string): string => {
    const row = rows.find((candidate) => candidate.goalId === goalId);
    return row ? `${row.projectName}, ${row.filterLetter}` : 'another goal';
  };
  return plan.omissions.flatMap((omission) => {
    const row = rows.find((candidate) => candidate.goalId === omission.goalId);
    // Why another member's private project waits is between that member and the coordinators.
    if (!row || row.projectName === RESERVED) return [];
    const reason = reasonOf(row, omission, nameOf);
    if (SILENT.includes(reason.code)) return [];
    const { projectId, projectName, panelName, filterLetter, filterClass, goalId } = row;
    return [{ projectId, projectName, panelName, filterLetter, filterClass, goalId, reason }];
  });
}

/** When it is dark enough for each class of filter fitted to the rig, by the observatory's limits. */
function usableDarkness({ observatory, rig, sky }: ShownPlan): RigPlan['usable'] {
  const fitted = observatory.filters.filter((filter) => rig.slots.some((slot) => slot.filterId === filter.id));
  const classes = [...new Set(fitted.map((filter) => filter.class))] as FilterClass[];
  const stored: StoredLimit[] = observatory.limits.map((limit) => ({ ...limit, scope: 'observatory' }));
  return classes.map((ofClass) => {
    const level = limitsInForce(stored, ofClass).sunAltitudeMaxDeg.value ?? observatory.bounds.sunAltitudeMaxDeg;
    return { class: ofClass, windows: [...keptDarkness(observatory, sky, level)] };
  });
}
