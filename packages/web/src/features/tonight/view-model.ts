// A rig's plan to the rows and sentences of the Tonight page.
import type { LeftOut, NightForecast, NightSky, PlanBlock, RigPlan } from '@meridiem/contract';
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
    ? `${end}, ${duration(Math.max(0, spareSec))} before twilight is too bright`
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

export const planNameWords = (plan: Pick<RigPlan, 'state' | 'seq'>): string =>
  plan.state === 'working'
    ? 'the working plan'
    : plan.state === 'automatic'
      ? 'the plan without hand changes'
      : `version ${plan.seq}`;

export interface ComparedRow {
  readonly panelId: string;
  readonly panelName: string;
  readonly here: string;
  readonly there: string;
  readonly difference: string;
}

/** Panels whose time differs between two plans, the largest difference first. */
export function comparedRows(here: RigPlan, there: RigPlan): ComparedRow[] {
  const panels = new Map([...here.blocks, ...there.blocks].map(({ panelId, panelName }) => [panelId, panelName]));
  const secondsOf = (plan: RigPlan, panelId: string): number =>
    plan.blocks
      .filter((block) => block.panelId === panelId)
      .flatMap(({ runs }) => runs)
      .reduce((sum, run) => sum + run.count * run.exposureSec, 0);
  return [...panels]
    .map(([panelId, panelName]) => {
      const [a, b] = [secondsOf(here, panelId), secondsOf(there, panelId)];
      return { panelId, panelName, a, b };
    })
    .filter(({ a, b }) => Math.abs(a - b) >= 30)
    .sort((x, y) => Math.abs(y.a - y.b) - Math.abs(x.a - x.b))
    .map(({ panelId, panelName, a, b }) => ({
      panelId,
      panelName,
      here: a === 0 ? 'nothing' : duration(a),
      there: b === 0 ? 'nothing' : duration(b),
      difference: `${a > b ? '+' : '−'}${duration(Math.abs(a - b))}`,
    }));
}

export interface ShownRun {
  readonly key: string;
  readonly filterLetter: string;
  readonly filterClass: FilterClass;
  readonly count: number;
  readonly exposureSec: number;
}

/** A name for each block that it keeps when it is moved: its panel and the how-manieth stay there. */
export function blockKeys(blocks: readonly PlanBlock[]): string[] {
  const stays = new Map<string, number>();
  return blocks.map(({ panelId }) => {
    const stay = stays.get(panelId) ?? 0;
    stays.set(panelId, stay + 1);
    return `${panelId} ${stay}`;
  });
}

/** A block's runs as they are listed: filters that alternate stand once, with their whole count. */
export function listedRuns(block: PlanBlock): { runs: ShownRun[]; alternates: boolean } {
  const goals = [...new Set(block.runs.map(({ goalId }) => goalId))];
  const alternates = goals.length > 1 && block.runs.length > 2 * goals.length;
  const listed = alternates
    ? goals.map((goalId) => block.runs.filter((run) => run.goalId === goalId))
    : block.runs.map((run) => [run]);
  return {
    alternates,
    runs: listed.map((own) => ({
      key: `${own[0].goalId}${own[0].startUtcMs}`,
      filterLetter: own[0].filterLetter,
      filterClass: own[0].filterClass,
      exposureSec: own[0].exposureSec,
      count: own.reduce((sum, run) => sum + run.count, 0),
    })),
  };
}

const CALL_WORDS = { go: 'Go', wait: 'Wait', no_go: 'No-go' } as const;

/** "Go: 6.2 of 7.5 dark hours expected clear; 2 of 3 sources agree" */
export function forecastWords({ call, hoursClear, hoursDark, agreeing, sources }: NightForecast): string {
  if (call === null) return 'No forecast covers this night.';
  const agree =
    sources.length === 1
      ? 'the only source'
      : agreeing === sources.length
        ? `all ${agreeing} sources agree`
        : `${agreeing} of ${sources.length} sources agree`;
  return `${CALL_WORDS[call]}: ${hours(hoursClear)} of ${hours(hoursDark)} dark hours expected clear; ${agree}`;
}

/** Whether the sun is up at a moment of a night's day or evening. */
export const isDayAt = ({ sunsetUtcMs, sunriseUtcMs }: NightSky, utcMs: number): boolean =>
  (sunsetUtcMs !== null && utcMs < sunsetUtcMs) || (sunriseUtcMs !== null && utcMs > sunriseUtcMs);

export interface ReserveRow {
  /** The goal that gains most per hour. */
  readonly best: RigPlan['reserve'][number];
  readonly filters: readonly { readonly letter: string; readonly filterClass: FilterClass }[];
}

/** Each project of the reserve once, by the goal that gains most, with every filter that waits. */
export function reserveByProject(reserve: RigPlan['reserve'], sky: 'dark' | 'bright'): ReserveRow[] {
  const projects = new Map<string, RigPlan['reserve']>();
  for (const goal of reserve.filter((one) => one.sky === sky))
    projects.set(goal.projectId, [...(projects.get(goal.projectId) ?? []), goal]);
  return [...projects.values()]
    .map((goals) => ({
      best: goals.reduce((most, goal) => (goal.perHour > most.perHour ? goal : most)),
      filters: [...new Map(goals.map(({ filterLetter, filterClass }) => [filterLetter, { letter: filterLetter, filterClass }])).values()], // prettier-ignore
    }))
    .sort((a, b) => b.best.perHour - a.best.perHour);
}

/** A longer gap between stays is a wait of its own. */
const WAIT_FROM_MS = 5 * 60_000;

/** The wait before each stay, by the stay's place; stays that follow at once have none. */
export const waitsBefore = (blocks: readonly PlanBlock[]): (PlanWait | null)[] =>
  blocks.map((block, i) => {
    const before = blocks[i - 1];
    if (!before || block.startUtcMs - before.endUtcMs < WAIT_FROM_MS) return null;
    return { startUtcMs: before.endUtcMs, endUtcMs: block.startUtcMs };
  });

export interface PlanWait {
  readonly startUtcMs: number;
  readonly endUtcMs: number;
}
