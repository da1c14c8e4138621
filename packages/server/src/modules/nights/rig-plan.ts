// A plan in goal and panel ids to one in names, curves and counts, for the Tonight page.
import type {
  FilterClass,
  LeftOut,
  NightRun,
  NightSky,
  Observatory,
  PlanBlock,
  PlanRun,
  Rig,
  RigPlan,
} from '@meridiem/contract';
import type { NightPlan, NightTable, PlannedBlock, StoredLimit } from '@meridiem/core';
import { limitsInForce, MINUTE_MS, nightTable, sunPassage, targetAltitudes, transitsOf } from '@meridiem/core';
import { RESERVED } from '../../privacy.ts';
import type { GoalRow } from './goal-rows.ts';
import { reasonOf } from './reasons.ts';

export interface ShownPlan {
  readonly observatory: Observatory;
  readonly rig: Rig;
  readonly sky: NightSky;
  readonly rows: readonly GoalRow[];
  readonly plan: NightPlan;
  readonly published: { seq: number; publishedUtcMs: number; stale: boolean } | null;
  readonly taken: readonly { goalId: string; startUtcMs: number }[];
  readonly run: NightRun | null;
}

/** Reasons that are no news on a list of what is left out tonight. */
const SILENT = ['COMPLETE', 'NOT_GRANTED', 'SWITCHED_OFF'];

export function rigPlan(shown: ShownPlan): RigPlan {
  const { rig, plan, published, run } = shown;
  const blocks = plannedBlocks(shown);
  const exposingSec = plan.blocks
    .flatMap((block) => block.runs)
    .reduce((sum, r) => sum + r.exposureStartsUtcMs.length * r.exposureSec, 0);
  const busySec = plan.blocks.reduce((sum, block) => sum + (block.endUtcMs - block.startUtcMs) / 1000, 0);
  return {
    rigId: rig.id,
    rigName: rig.name,
    state: published ? 'published' : 'working',
    seq: published?.seq ?? null,
    publishedUtcMs: published?.publishedUtcMs ?? null,
    stale: published?.stale ?? false,
    value: plan.value,
    exposingHours: exposingSec / 3600,
    overheadHours: Math.max(0, busySec - exposingSec) / 3600,
    blocks,
    leftOut: leftOut(shown),
    usable: usableDarkness(shown),
    run,
  };
}

function plannedBlocks({ observatory, rig, sky, rows, plan, taken }: ShownPlan): PlanBlock[] {
  if (plan.blocks.length === 0) return [];
  const table = nightTable(
    observatory,
    { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs },
    sky.stepMs / 1000,
  );
  return plan.blocks.flatMap((block) => {
    const row = rows.find((candidate) => candidate.panelId === block.panelId);
    if (!row) return [];
    return [
      {
        panelId: block.panelId,
        panelName: row.panelName,
        projectId: row.projectId,
        projectName: row.projectName,
        ownerName: row.ownerName,
        startUtcMs: block.startUtcMs,
        endUtcMs: block.endUtcMs,
        altitudeDeg: altitudeCurve(table, row),
        flipUtcMs: flipInside(observatory, rig, row, block),
        runs: block.runs.map((run) => planRun(rows, run, taken)),
      },
    ];
  });
}

function planRun(rows: readonly GoalRow[], run: PlannedBlock['runs'][number], taken: ShownPlan['taken']): PlanRun {
  const row = rows.find((candidate) => candidate.goalId === run.goalId);
  const inside = taken.filter(
    (t) =>
      t.goalId === run.goalId && t.startUtcMs >= run.startUtcMs - MINUTE_MS && t.startUtcMs <= run.endUtcMs + MINUTE_MS,
  );
  return {
    goalId: run.goalId,
    filterLetter: row?.filterLetter ?? '?',
    filterClass: row?.filterClass ?? 'broadband',
    startUtcMs: run.startUtcMs,
    endUtcMs: run.endUtcMs,
    exposureSec: run.exposureSec,
    count: run.exposureStartsUtcMs.length,
    taken: inside.length,
    meanRateShare: run.meanRateShare,
  };
}

function altitudeCurve(table: NightTable, row: GoalRow): number[] {
  if (row.raDeg === null || row.decDeg === null) return [];
  return Array.from(
    targetAltitudes(table, { raDeg: row.raDeg, decDeg: row.decDeg }),
    (altitude) => Math.round(altitude * 10) / 10,
  );
}

function flipInside(observatory: Observatory, rig: Rig, row: GoalRow, block: PlannedBlock): number | null {
  if (rig.mountKind !== 'german_equatorial' || row.raDeg === null || row.decDeg === null) return null;
  return transitsOf(observatory, { raDeg: row.raDeg, decDeg: row.decDeg }, block)[0] ?? null;
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
    const { duskUtcMs, dawnUtcMs } = sunPassage(observatory, sky, level);
    return {
      class: ofClass,
      windows: duskUtcMs !== null && dawnUtcMs !== null ? [{ startUtcMs: duskUtcMs, endUtcMs: dawnUtcMs }] : [],
    };
  });
}
