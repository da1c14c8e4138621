// A project's goals to matrices and sentences.
import type {
  Consequences,
  Goal,
  LimitEffect,
  LimitRow,
  Panel,
  Project,
  ProjectNight,
  readGoalHistory,
  Outlook,
  readProjectTime,
  ResponseOf,
} from '@meridiem/contract';
import { panelWithin } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { LIMIT_KEYS, limitsInForce } from '@meridiem/core';
import { finishWords, HARDLY, shortDay } from '../../words/finish.ts';
import { clock, count, dayOf, duration, hours, percent } from '../../words/format.ts';
import { shortReason } from '../../words/reasons.ts';

/** Time still to spend on a goal, overhead apart. */
export function leftWords(goal: Goal): string {
  if (goal.leftExposingSec === null || goal.leftOverheadSec === null) return 'open-ended';
  if (goal.leftExposingSec === 0)
    return goal.tally.undecided > 0 && goal.tally.toPlan === 0 && goal.tally.done < (goal.tally.wanted ?? 0)
      ? 'awaiting verdicts'
      : 'nothing left';
  return `${duration(goal.leftExposingSec)} + ${duration(goal.leftOverheadSec)}`;
}

/** What tonight holds for a goal and when it would end. */
export function tonightOf(goal: Goal, zone: string): string {
  if (!goal.tonight) return '';
  if (goal.tonight.planned > 0)
    return `${goal.tonight.planned} planned, until ${clock(goal.tonight.plannedEndUtcMs, zone)}`;
  if (goal.tonight.reason) return shortReason(goal.tonight.reason);
  return `usable ${hours(goal.tonight.usableHours)} h`;
}

export interface ProjectTotals {
  readonly acceptedHours: number;
  readonly effectiveHours: number;
  readonly wantedHours: number | null;
  readonly leftExposingSec: number;
  readonly leftOverheadSec: number;
}

/** Totals over all goals that are switched on. */
export function totalsOf(panels: readonly Panel[]): ProjectTotals {
  const goals = panels.flatMap((panel) => panel.goals).filter((goal) => goal.enabled);
  const sum = (of: (goal: Goal) => number): number => goals.reduce((total, goal) => total + of(goal), 0);
  return {
    acceptedHours: sum((goal) => goal.tally.acceptedHours),
    effectiveHours: sum((goal) => goal.tally.effectiveHours),
    wantedHours: goals.some((goal) => goal.wanted === null) ? null : sum((goal) => goal.tally.wantedHours ?? 0),
    leftExposingSec: sum((goal) => goal.leftExposingSec ?? 0),
    leftOverheadSec: sum((goal) => goal.leftOverheadSec ?? 0),
  };
}

export interface LimitLine {
  readonly key: LimitRow['key'];
  readonly value: number | null;
  readonly origin: string;
  /** Set by this project for this class. */
  readonly own: boolean;
}

/** Limits of the project for a class of filter, each with its origin; those that nobody set are left out. */
export function limitLines(project: Project, filterClass: FilterClass): LimitLine[] {
  const stored = [
    ...project.limits.map((limit) => ({ ...limit, scope: 'project' as const })),
    ...project.observatoryLimits.map((limit) => ({ ...limit, scope: 'observatory' as const })),
  ];
  const inForce = limitsInForce(stored, filterClass);
  return LIMIT_KEYS.map((key) => ({ key, ...inForce[key], own: inForce[key].origin === 'project class' }));
}

/** Classes of filter that a project's goals use. */
export const classesOf = (panels: readonly Panel[]): FilterClass[] => [
  ...new Set(panels.flatMap((panel) => panel.goals.map((goal) => goal.filterClass))),
];

export type GatheredPoint = { readonly nightDate: string } & Readonly<Record<string, number | string>>;

/** Accepted hours summed up night by night, a column a filter; every point has every filter. */
export function gatheredHours(nights: readonly ProjectNight[]): {
  points: GatheredPoint[];
  filters: { letter: string; filterClass: FilterClass }[];
} {
  const filters = new Map<string, FilterClass>();
  for (const { filters: own } of nights)
    for (const { filterLetter, filterClass } of own) filters.set(filterLetter, filterClass);
  const sums = new Map([...filters.keys()].map((letter) => [letter, 0]));
  const points = nights.map(({ nightDate, filters: own }) => {
    for (const { filterLetter, acceptedHours } of own) sums.set(filterLetter, sums.get(filterLetter)! + acceptedHours);
    return { nightDate, ...Object.fromEntries(sums) };
  });
  return { points, filters: [...filters].map(([letter, filterClass]) => ({ letter, filterClass })) };
}

/** Lines that end closer than this share of the highest carry one label. */
const LABEL_APART = 0.06;

/** What stands at the end of each filter's line: its letter, or all letters of lines that end together on the first of them. */
export function endLabels(
  points: readonly GatheredPoint[],
  filters: readonly { readonly letter: string }[],
): Map<string, string> {
  const last = points.at(-1);
  if (!last) return new Map();
  const ends = filters.map(({ letter }) => ({ letter, end: last[letter] as number })).sort((a, b) => b.end - a.end);
  const labels = new Map<string, string>();
  let first: { letter: string; end: number } | null = null;
  for (const one of ends) {
    if (first && first.end - one.end < LABEL_APART * ends[0].end)
      labels.set(first.letter, `${labels.get(first.letter)} ${one.letter}`).set(one.letter, '');
    else labels.set((first = one).letter, one.letter);
  }
  return labels;
}

/** "4 nights, 15 Oct at the earliest" */
export function outlookWords({ nights, doneNightDate, leftExposures, openEnded, lookedAheadNights }: Outlook): string {
  const endless =
    openEnded > 0 ? ` ${openEnded} open-ended ${openEnded === 1 ? 'goal has' : 'goals have'} no end.` : '';
  if (nights.length === 0 && leftExposures === 0) return `Nothing more is needed.${endless}`;
  if (nights.length === 0) return `No night of the next ${lookedAheadNights} can serve it.${endless}`;
  const many = `${nights.length} ${nights.length === 1 ? 'night' : 'nights'}`;
  if (doneNightDate) return `${many}; done in the night of ${dayOf(doneNightDate)} at the earliest.${endless}`;
  return `Not in the next ${lookedAheadNights} nights: ${many} can serve, and ${leftExposures} exposures stay open.${endless}`;
}

type Wish = ResponseOf<typeof readGoalHistory>['wishes'][number];

/** "60 wanted", "60 → 90: faint outer shell" */
export function wishWords({ wanted, before, why, isFirst }: Wish): string {
  const counted = (value: number | null): string => (value === null ? 'open-ended' : count(value));
  const words = isFirst ? `${counted(wanted)} wanted` : `${counted(before)} → ${counted(wanted)}`;
  return why ? `${words}: ${why}` : words;
}

export interface SpentLine {
  readonly words: string;
  readonly hours: number;
  /** Classes of its bar: solid counts, outline waits, hatched is lost or overhead. */
  readonly look: string;
}

/** Where a project’s time went; what is zero is left out. */
export function spentLines(time: ResponseOf<typeof readProjectTime>): SpentLine[] {
  return [
    { words: 'accepted', hours: time.acceptedHours, look: 'bg-ink' },
    { words: 'undecided', hours: time.undecidedHours, look: 'border border-ink' },
    ...time.rejected.map(({ reason, hours: lost }) => ({
      words: `rejected: ${reason}`,
      hours: lost,
      look: 'bg-signal hatched',
    })),
    { words: 'overhead', hours: time.overheadHours, look: 'bg-soft hatched' },
    { words: 'frames lost', hours: time.faultHours, look: 'bg-signal' },
  ].filter((line) => line.hours >= 0.005);
}

/** "Light: predicted 83 % of its best, measured 79 % over 142 accepted exposures." */
export function lightWords({ exposures, predicted, measured }: ResponseOf<typeof readGoalHistory>['light']): string {
  if (predicted === null || measured === null) return '';
  const over = `${exposures} accepted ${exposures === 1 ? 'exposure' : 'exposures'}`;
  return `Light: predicted ${percent(predicted)} of its best, measured ${percent(measured)} over ${over}.`;
}

/** Which goal is behind the others: "least served: B of panel 3"; a project is as far as that one. */
export function behindWords(projectName: string, panels: readonly Pick<Panel, 'name' | 'goals'>[]): string {
  const goals = panels.flatMap(({ name, goals: own }) =>
    own
      .filter(({ enabled, wanted }) => enabled && wanted !== null && wanted > 0)
      .map(({ filterLetter, tally, wanted }) => ({ name, filterLetter, share: Math.min(1, tally.done / wanted!) })),
  );
  if (goals.length < 2) return 'of what is wanted';
  const [least, next] = goals.toSorted((a, b) => a.share - b.share);
  if (next.share - least.share < 0.005) return 'by the least-served panel and filter';
  return `least served: ${least.filterLetter}${panels.length > 1 ? ` of ${panelWithin(projectName, least.name)}` : ''}`;
}

/** "This limit costs 41.0 of 63.0 h in the coming 30 nights; tonight 1.2 of 6.5 h" */
export function effectWords({ nights }: LimitEffect, isProposed: boolean): string {
  const sum = (key: 'hours' | 'hoursWithout' | 'hoursProposed'): number =>
    nights.reduce((total, night) => total + night[key], 0);
  const [now, without, tried] = [sum('hours'), sum('hoursWithout'), sum('hoursProposed')];
  const lost = Math.max(0, without - now);
  const [tonight] = nights;
  const coming = nights.length === 1 ? 'the coming night' : `the coming ${nights.length} nights`;
  const costs =
    lost < 0.05
      ? `This limit costs nothing in ${coming}.`
      : `This limit costs ${hours(lost)} of ${hours(without)} h in ${coming}; tonight ${hours(Math.max(0, tonight.hoursWithout - tonight.hours))} of ${hours(tonight.hoursWithout)} h.`;
  if (!isProposed) return costs;
  const change = tried - now;
  const words =
    Math.abs(change) < 0.05 ? 'changes nothing' : `${change > 0 ? 'gains' : 'loses'} ${hours(Math.abs(change))} h`;
  return `${costs} As tried it ${words} against now.`;
}

export interface PanelCost {
  readonly exposingSec: number;
  readonly overheadSec: number;
}

/** What is left of a panel's goals, exposing and overhead apart; open-ended goals have no end and count nothing. */
export const panelCost = (panel: Panel): PanelCost =>
  panel.goals
    .filter((goal) => goal.enabled)
    .reduce(
      (sum, goal) => ({
        exposingSec: sum.exposingSec + (goal.leftExposingSec ?? 0),
        overheadSec: sum.overheadSec + (goal.leftOverheadSec ?? 0),
      }),
      { exposingSec: 0, overheadSec: 0 },
    );

/** When a project would end if it were granted. */
export function ownEndWords({ own, lastNight }: Pick<Consequences, 'own' | 'lastNight'>): string {
  if (own.isOpenEnded)
    return `It would never end, and take about ${hours(own.expectedHours)} h by ${dayOf(lastNight)}.`;
  if (own.leftHours === 0) return 'Nothing is left to take.';
  const expected = Math.min(own.leftHours, own.expectedHours);
  const taken = `about ${hours(expected)} h of the ${hours(own.leftHours)} h still to take find their place`;
  return own.finishedShare < HARDLY
    ? `It would hardly end by ${dayOf(lastNight)}: ${taken}.`
    : `It would end ${finishWords(own, lastNight)}; ${taken}.`;
}

/** How much later another project would end. */
export function delayWords({
  nights,
  middleWithout,
  middleWith,
  finishedShareWithout,
  finishedShareWith,
}: Consequences['delays'][number]): string {
  if (nights !== null && nights > 0)
    return `would end about ${count(nights)} ${nights === 1 ? 'night' : 'nights'} later, ${shortDay(middleWith!)} instead of ${shortDay(middleWithout!)}`;
  return `would end in ${percent(finishedShareWith)} of the seasons instead of ${percent(finishedShareWithout)}`;
}
