// A plan in the core's ids to one with names and curves: the same for the server's answer and for a page that plans by itself.
import type { NightPlan, NightTable, PlannedBlock, Site, StayChain } from '@meridiem/core';
import { MINUTE_MS, nightTable, targetAltitudes, transitsOf } from '@meridiem/core';
import type { PlanName } from './hand-changes.ts';
import type { NightSky, PlanBlock, PlanRun } from './nights.ts';

export interface ShownPlanParts {
  readonly site: Site;
  /** Whether the mount turns over at the meridian. */
  readonly flips: boolean;
  readonly sky: NightSky;
  readonly names: readonly PlanName[];
  readonly plan: Pick<NightPlan, 'blocks'>;
  /** Steps around a stay of a panel; none where left out. */
  readonly chain?: (panelId: string, stay: StayPlace) => StayChain;
  /** Exposures of this night that were taken. */
  readonly taken: readonly { readonly goalId: string; readonly startUtcMs: number }[];
}

/** Where a stay lies in its night: whether the rig waits before or after it, and whether it is the last. */
export interface StayPlace {
  readonly before: boolean;
  readonly after: boolean;
  readonly isLast: boolean;
}

/** A longer gap between stays is a wait. */
const WAIT_MS = 5 * MINUTE_MS;

export function shownBlocks({ site, flips, sky, names, plan, taken, chain }: ShownPlanParts): PlanBlock[] {
  if (plan.blocks.length === 0) return [];
  const table = nightTable(site, { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs }, sky.stepMs / 1000);
  const chainOf = (block: PlannedBlock): { arriving: string[]; leaving: string[] } => {
    const i = plan.blocks.indexOf(block);
    const [before, after] = [plan.blocks[i - 1], plan.blocks[i + 1]];
    const steps = chain?.(block.panelId, {
      before: before !== undefined && block.startUtcMs - before.endUtcMs > WAIT_MS,
      after: after !== undefined && after.startUtcMs - block.endUtcMs > WAIT_MS,
      isLast: after === undefined,
    });
    return { arriving: [...(steps?.arriving ?? [])], leaving: [...(steps?.leaving ?? [])] };
  };
  return plan.blocks.flatMap((block) => {
    const name = names.find((candidate) => candidate.panelId === block.panelId);
    if (!name) return [];
    return [
      {
        panelId: block.panelId,
        panelName: name.panelName,
        projectId: name.projectId,
        projectName: name.projectName,
        ownerName: name.ownerName,
        startUtcMs: block.startUtcMs,
        endUtcMs: block.endUtcMs,
        altitudeDeg: altitudeCurve(table, name),
        flipUtcMs: flips ? flipInside(site, name, block) : null,
        ...chainOf(block),
        notAlternating: isNotAlternating(names, block),
        runs: block.runs.map((run) => shownRun(names, run, taken)),
      },
    ];
  });
}

/** More than a group of each filter, and each of them in one run. */
function isNotAlternating(names: readonly PlanName[], { runs }: PlannedBlock): boolean {
  const groupOf = (goalId: string): number => names.find((name) => name.goalId === goalId)?.groupOf ?? 0;
  return (
    runs.length > 1 &&
    new Set(runs.map(({ goalId }) => goalId)).size === runs.length &&
    runs.every(({ goalId }) => groupOf(goalId) > 0) &&
    runs.every(({ goalId, exposureStartsUtcMs }) => exposureStartsUtcMs.length > groupOf(goalId))
  );
}

function shownRun(
  names: readonly PlanName[],
  run: PlannedBlock['runs'][number],
  taken: ShownPlanParts['taken'],
): PlanRun {
  const name = names.find((candidate) => candidate.goalId === run.goalId);
  const inside = taken.filter(
    (t) =>
      t.goalId === run.goalId && t.startUtcMs >= run.startUtcMs - MINUTE_MS && t.startUtcMs <= run.endUtcMs + MINUTE_MS,
  );
  return {
    goalId: run.goalId,
    filterLetter: name?.filterLetter ?? '?',
    filterClass: name?.filterClass ?? 'broadband',
    startUtcMs: run.startUtcMs,
    endUtcMs: run.endUtcMs,
    exposureSec: run.exposureSec,
    count: run.exposureStartsUtcMs.length,
    taken: inside.length,
    meanRateShare: run.meanRateShare,
  };
}

function altitudeCurve(table: NightTable, { raDeg, decDeg }: PlanName): number[] {
  if (raDeg === null || decDeg === null) return [];
  return Array.from(targetAltitudes(table, { raDeg, decDeg }), (altitude) => Math.round(altitude * 10) / 10);
}

const flipInside = (site: Site, { raDeg, decDeg }: PlanName, block: PlannedBlock): number | null =>
  raDeg === null || decDeg === null ? null : (transitsOf(site, { raDeg, decDeg }, block)[0] ?? null);

/** Waiting within a stay, for a window to open again: time of nobody's making, no overhead. */
const idleMs = ({ runs }: PlannedBlock): number =>
  runs.reduce((sum, run, i) => {
    const gapMs = i === 0 ? 0 : run.startUtcMs - runs[i - 1].endUtcMs;
    return sum + (gapMs > WAIT_MS ? gapMs : 0);
  }, 0);

/** Hours exposing and beside it, as a plan's summary tells them. */
export function hoursOfPlan(plan: Pick<NightPlan, 'blocks'>): { exposingHours: number; overheadHours: number } {
  const exposingSec = plan.blocks
    .flatMap((block) => block.runs)
    .reduce((sum, run) => sum + run.exposureStartsUtcMs.length * run.exposureSec, 0);
  const busySec = plan.blocks.reduce(
    (sum, block) => sum + (block.endUtcMs - block.startUtcMs - idleMs(block)) / 1000,
    0,
  );
  return { exposingHours: exposingSec / 3600, overheadHours: Math.max(0, busySec - exposingSec) / 3600 };
}
