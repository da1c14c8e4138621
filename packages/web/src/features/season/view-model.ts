// The season to rows, marks and sentences.
import type { Season, SeasonCell, SeasonNight, SeasonProject } from '@meridiem/contract';
import { DateTime } from 'luxon';
import { HARDLY } from '../../words/finish.ts';
import { count, hours, nightAfter, percent } from '../../words/format.ts';

export interface CellPlace {
  readonly nightDate: string;
  readonly cell: SeasonCell;
  /** Where it lies in the row and how long it is, in widths of a night. */
  readonly from: number;
  readonly length: number;
}

export interface SeasonRow {
  readonly project: SeasonProject;
  readonly places: readonly CellPlace[];
}

export interface SeasonRig {
  readonly rigId: string;
  readonly nights: readonly SeasonNight[];
  readonly rows: readonly SeasonRow[];
  /** What is reserved for others' private projects. */
  readonly reserved: readonly CellPlace[];
}

/** Each rig with its projects, those first that end first; those that nothing ends come last. */
export function seasonRigs({ nights, projects }: Season): SeasonRig[] {
  return [...new Set(nights.map(({ rigId }) => rigId))].map((rigId) => {
    const own = nightsOfRig({ nights }, rigId);
    const places = own.flatMap((night, n) => night.cells.map((cell) => placeOf(night, n, cell)));
    return {
      rigId,
      nights: own,
      rows: projects
        .filter((project) => project.rigId === rigId)
        .toSorted((a, b) => orderOf(a).localeCompare(orderOf(b)) || a.name.localeCompare(b.name))
        .map((project) => ({ project, places: places.filter(({ cell }) => cell.projectId === project.projectId) })),
      reserved: places.filter(({ cell }) => cell.projectId === null),
    };
  });
}

/** The nights of one rig. */
export const nightsOfRig = ({ nights }: Pick<Season, 'nights'>, rigId: string): SeasonNight[] =>
  nights.filter((night) => night.rigId === rigId);

/** The same rows by whose they are, every rig's together; what is reserved is nobody's here. */
export function seasonMembers(season: Season): SeasonRig[] {
  const rigs = seasonRigs(season);
  const rows = rigs.flatMap((rig) => rig.rows);
  return [...new Set(rows.map(({ project }) => project.ownerName))].sort().map((ownerName) => {
    const own = rows.filter(({ project }) => project.ownerName === ownerName);
    return {
      rigId: ownerName,
      nights: rigs.find(({ rigId }) => rigId === own[0].project.rigId)!.nights,
      rows: own.toSorted((a, b) => orderOf(a.project).localeCompare(orderOf(b.project))),
      reserved: [],
    };
  });
}

const orderOf = ({ middle, late, early }: SeasonProject): string => middle ?? late ?? (early ? `9${early}` : '99');

function placeOf({ nightDate, startUtcMs, endUtcMs }: SeasonNight, n: number, cell: SeasonCell): CellPlace {
  const length = endUtcMs! - startUtcMs!;
  return {
    nightDate,
    cell,
    from: n + (cell.fromUtcMs - startUtcMs!) / length,
    length: (cell.toUtcMs - cell.fromUtcMs) / length,
  };
}

/** The filter that takes most exposures of a cell. */
export const mainFilter = ({ filters }: SeasonCell): SeasonCell['filters'][number] | null =>
  filters.reduce<SeasonCell['filters'][number] | null>(
    (most, one) => (most && most.exposures >= one.exposures ? most : one),
    null,
  );

/** Projects that these nights hardly end. */
export const unfinished = ({ projects }: Season): SeasonProject[] =>
  projects.filter(
    ({ isOpenEnded, leftHours, finishedShare }) => !isOpenEnded && leftHours > 0 && finishedShare < HARDLY,
  );

/** What such a project lacks, in numbers. */
export const shortWords = ({ leftHours, expectedHours }: SeasonProject): string =>
  expectedHours === 0
    ? `${hours(leftHours)} h still to take; no night of these can serve it`
    : `${hours(leftHours)} h still to take, about ${hours(Math.min(leftHours, expectedHours))} h expected`;

/** How good the season is, said as what is proven. */
export function provenWords({ value, bound }: Season): string | null {
  return bound === null || bound <= 0
    ? null
    : `At least ${Math.floor((100 * value) / bound)} % of the best possible for these odds; proven.`;
}

/** What a night does for a project. */
export function cellWords(cell: SeasonCell, odds: number): string {
  const filters = cell.filters.map(({ letter, exposures }) => `${exposures} ${letter}`).join(', ');
  return `${count(cell.exposures)} exposures${filters ? ` (${filters})` : ''}, ${hours(cell.exposingSec / 3600)} h, at ${percent(cell.meanRate)} of the target’s best light; clear with odds of ${percent(odds)}`;
}

export interface MonthMark {
  readonly night: number;
  readonly words: string;
}

/** Marks stand at least so many nights apart. */
const APART = 4;

/** Where months and weeks begin on the axis of nights; the first night only where nothing follows soon. */
export function dateMarks(nights: readonly SeasonNight[]): MonthMark[] {
  const marks = nights.flatMap(({ nightDate }, night): MonthMark[] => {
    const date = DateTime.fromISO(nightDate);
    if (date.day === 1) return [{ night, words: date.toFormat('d LLL') }];
    const isMonday = date.weekday === 1 && date.day > APART && date.day < 28;
    return isMonday && night >= APART ? [{ night, words: date.toFormat('d') }] : [];
  });
  const isRoom = nights.length > 0 && (marks[0]?.night ?? APART) >= APART;
  return isRoom ? [{ night: 0, words: DateTime.fromISO(nights[0].nightDate).toFormat('d LLL') }, ...marks] : marks;
}

/** The night's place on the axis. */
export const nightIndex = (nights: readonly SeasonNight[], nightDate: string): number =>
  nights.findIndex((night) => night.nightDate === nightDate);

/** The last night looked at, and the one after it. */
export const lastNightOf = (nights: readonly SeasonNight[]): string =>
  nights.at(-1)?.nightDate ?? nightAfter('2000-01-01', 0);
