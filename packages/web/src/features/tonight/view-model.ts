// A rig's plan to the rows and sentences of the Tonight page.
import type { LeftOut, NightSky, PlanBlock, RigPlan } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { clock, duration, hours, percent } from '../../words/format.ts';
import { shortReason } from '../../words/reasons.ts';

export interface LeftOutRow {
  readonly key: string;
  readonly projectId: string;
  readonly projectName: string;
  readonly filters: readonly { letter: string; filterClass: FilterClass }[];
  readonly panels: number;
  readonly words: string;
  readonly items: readonly LeftOut[];
}

/** Goals left out for the same kind of reason, a row a project. */
export function leftOutRows(leftOut: readonly LeftOut[]): LeftOutRow[] {
  const groups = new Map<string, LeftOut[]>();
  for (const item of leftOut) {
    const key = `${item.projectId} ${item.reason.code}`;
    groups.set(key, [...(groups.get(key) ?? []), item]);
  }
  return [...groups].map(([key, items]) => ({
    key,
    projectId: items[0].projectId,
    projectName: items[0].projectName,
    filters: [
      ...new Map(
        items.map((item) => [item.filterLetter, { letter: item.filterLetter, filterClass: item.filterClass }]),
      ).values(),
    ],
    panels: new Set(items.map((item) => item.panelName)).size,
    words: shortReason(items[0].reason),
    items,
  }));
}

/** When a block ends, and how long before darkness ends for its last filter: an end time that says whether it is possible. */
export function endWords(block: PlanBlock, plan: RigPlan, zone: string): string {
  const end = clock(block.endUtcMs, zone);
  const lastRun = block.runs[block.runs.length - 1];
  const dark = plan.usable.find((usable) => usable.class === lastRun.filterClass)?.windows.at(-1);
  if (!dark) return end;
  const spareSec = (dark.endUtcMs - lastRun.endUtcMs) / 1000;
  if (spareSec > 5400) return end;
  return spareSec >= -60
    ? `${end}, ${duration(Math.max(0, spareSec))} before it is too bright`
    : `${end}, ${duration(-spareSec)} past its darkness`;
}

/** The night's facts in one line. */
export function skyFacts(sky: NightSky, zone: string): { name: string; value: string }[] {
  const moon = `${percent(sky.moonIlluminatedShare)} lit${sky.moonriseUtcMs ? `, rises ${clock(sky.moonriseUtcMs, zone)}` : ''}${sky.moonsetUtcMs ? `, sets ${clock(sky.moonsetUtcMs, zone)}` : ''}`;
  return [
    { name: 'Sunset', value: clock(sky.sunsetUtcMs, zone) },
    {
      name: 'Dark',
      value:
        sky.duskUtcMs === null
          ? 'never'
          : `${clock(sky.duskUtcMs, zone)}–${clock(sky.dawnUtcMs, zone)} (${hours(sky.darkHours)} h)`,
    },
    { name: 'Dark without moon', value: `${hours(sky.darkMoonlessHours)} h` },
    { name: 'Moon', value: moon },
    { name: 'Sunrise', value: clock(sky.sunriseUtcMs, zone) },
  ];
}

/** What the rig's plan amounts to, in one sentence; overhead apart. */
export function planSummary(plan: RigPlan): string {
  if (plan.blocks.length === 0) return 'Nothing is planned.';
  const exposures = plan.blocks.flatMap((block) => block.runs).reduce((sum, run) => sum + run.count, 0);
  return `${exposures} exposures, ${hours(plan.exposingHours)} h exposing + ${hours(plan.overheadHours)} h overhead`;
}

/** Counts of a block's runs taken so far. */
export const takenOf = (block: PlanBlock): { taken: number; count: number } =>
  block.runs.reduce((sum, run) => ({ taken: sum.taken + run.taken, count: sum.count + run.count }), {
    taken: 0,
    count: 0,
  });
