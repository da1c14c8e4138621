// A what-if as the address holds it, and the two seasons side by side.
import type { Season, SeasonProject, TriedLimit, WhatIf } from '@meridiem/contract';
import type { FilterClass, LimitKey } from '@meridiem/core';
import { LIMIT_KEYS } from '@meridiem/core';
import { DateTime } from 'luxon';
import { finishWords } from '../../words/finish.ts';
import { hours, percent } from '../../words/format.ts';
import { lastNightOf } from './view-model.ts';

/** What the address says of the changes tried. */
export function whatIfOf(search: URLSearchParams): WhatIf {
  const list = (key: string): string[] => search.get(key)?.split(',').filter(Boolean) ?? [];
  const [granted, leftOut] = [list('granted'), list('without')];
  const grades = list('grades').map((pair) => ({ projectId: pair.slice(0, -2), grade: Number(pair.slice(-1)) }));
  const fairness = search.get('fairness');
  const limits = list('limits').flatMap((text) => limitIn(text) ?? []);
  const shares = list('shares').map((pair) => ({ memberId: pair.split(':')[0], share: Number(pair.split(':')[1]) / 100 })); // prettier-ignore
  const [from, to] = [search.get('closedFrom'), search.get('closedTo')];
  return {
    ...(granted.length > 0 ? { granted } : {}),
    ...(leftOut.length > 0 ? { leftOut } : {}),
    ...(grades.length > 0 ? { grades } : {}),
    ...(fairness !== null ? { fairness: Number(fairness) } : {}),
    ...(limits.length > 0 ? { limits } : {}),
    ...(shares.length > 0 ? { shares } : {}),
    ...(from && to ? { closed: [{ rigId: search.get('closedRig'), firstNight: from, lastNight: to }] } : {}),
  };
}

const ALL = 'all';

/** "all:narrowband:minAltitudeDeg:35"; null where it is no limit */
function limitIn(text: string): TriedLimit | null {
  const [projectId, ofClass, key, value] = text.split(':');
  if (!LIMIT_KEYS.includes(key as LimitKey) || (value !== 'off' && !Number.isFinite(Number(value)))) return null;
  return {
    projectId: projectId === ALL ? null : projectId,
    class: ofClass === ALL ? null : (ofClass as FilterClass),
    key: key as LimitKey,
    value: value === 'off' ? null : Number(value),
  };
}

/** Limits tried, as the address holds them. */
export const withLimits = (tried: readonly TriedLimit[]): string =>
  tried.map(({ projectId, class: ofClass, key, value }) => [projectId ?? ALL, ofClass ?? ALL, key, value ?? 'off'].join(':')).join(','); // prettier-ignore

export const isSameLimit = (a: TriedLimit, b: TriedLimit): boolean =>
  a.projectId === b.projectId && a.class === b.class && a.key === b.key;

/** Shares tried, as the address holds them. */
export const withShares = (shares: WhatIf['shares']): string | null =>
  shares ? shares.map(({ memberId, share }) => `${memberId}:${Math.round(1000 * share) / 10}`).join(',') : null;

/** Percentages typed by member; null where one can't be read */
export function sharesTyped(
  typed: Readonly<Record<string, string>>,
): { readonly shares: NonNullable<WhatIf['shares']>; readonly sum: number; readonly isWhole: boolean } | null {
  const shares = Object.entries(typed).map(([memberId, text]) => ({
    memberId,
    share: Number(text.replace('%', '').replace(',', '.').trim()) / 100,
  }));
  if (shares.some(({ share }) => !(share >= 0 && share <= 1))) return null;
  const sum = shares.reduce((total, { share }) => total + share, 0);
  return { shares, sum, isWhole: Math.abs(sum - 1) < 0.005 };
}

export const isNothing = (whatIf: WhatIf): boolean => Object.keys(whatIf).length === 0;

/** The address's value of a list with one entry put in, taken out or replaced. */
export const withEntry = (entries: readonly string[], entry: string, isIn: boolean): string =>
  [...entries.filter((one) => one !== entry), ...(isIn ? [entry] : [])].join(',');

/** A project's grade among the others' in the address; null is as it stands. */
export const withGrade = (whatIf: WhatIf, projectId: string, grade: number | null): string =>
  [
    ...(whatIf.grades ?? []).filter((one) => one.projectId !== projectId),
    ...(grade === null ? [] : [{ projectId, grade }]),
  ]
    .map((one) => `${one.projectId}:${one.grade}`)
    .join(',');

export interface ComparedRow {
  readonly projectId: string;
  readonly name: string;
  readonly ownerName: string;
  readonly now: string;
  readonly then: string;
  /** Change of the hours expected. */
  readonly hoursMore: number;
  readonly isChanged: boolean;
}

/** Of being finished, of hours and of nights: less is the search's own noise. */
const NOTICED_SHARE = 0.1;
const NOTICED_HOURS = 1;
const NOTICED_NIGHTS = 4;

/** Nights from one date to another; 0 where one of them is none. */
const nightsApart = (from: string | null, to: string | null): number =>
  from && to ? DateTime.fromISO(to).diff(DateTime.fromISO(from), 'days').days : 0;

/** Every project of either season, those that change most first. */
export function comparedRows(now: Season, then: Season): ComparedRow[] {
  const of = ({ projects }: Season, id: string): SeasonProject | null =>
    projects.find(({ projectId }) => projectId === id) ?? null;
  const ids = [...new Set([...now.projects, ...then.projects].map(({ projectId }) => projectId))];
  return ids
    .map((projectId): ComparedRow => {
      const [a, b] = [of(now, projectId), of(then, projectId)];
      const hoursMore = (b?.expectedHours ?? 0) - (a?.expectedHours ?? 0);
      const sharesApart = Math.abs((b?.finishedShare ?? 0) - (a?.finishedShare ?? 0));
      const words = (project: SeasonProject | null, { nights }: Season): string =>
        project ? finishWords(project, lastNightOf(nights)) : 'not in the season';
      return {
        projectId,
        name: (a ?? b)!.name,
        ownerName: (a ?? b)!.ownerName,
        now: words(a, now),
        then: words(b, then),
        hoursMore,
        isChanged:
          !a ||
          !b ||
          sharesApart >= NOTICED_SHARE ||
          Math.abs(hoursMore) >= NOTICED_HOURS ||
          Math.abs(nightsApart(a.middle, b.middle)) >= NOTICED_NIGHTS,
      };
    })
    .toSorted((a, b) => Number(b.isChanged) - Number(a.isChanged) || Math.abs(b.hoursMore) - Math.abs(a.hoursMore));
}

/** "+2.4 h", "−0.3 h" */
export const moreWords = (more: number): string =>
  Math.abs(more) < 0.05 ? 'the same' : `${more < 0 ? '−' : '+'}${hours(Math.abs(more))} h`;

/** How the seasons differ as a whole. */
export function wholeWords(now: Season, then: Season): string {
  const hoursOf = ({ projects }: Season): number => projects.reduce((sum, { expectedHours }) => sum + expectedHours, 0);
  const finished = ({ projects }: Season): number =>
    projects.reduce((sum, { finishedShare }) => sum + finishedShare, 0);
  const change = hoursOf(then) - hoursOf(now);
  return `${hours(hoursOf(then))} h of exposures expected in all instead of ${hours(hoursOf(now))} h (${moreWords(change)}); ${finished(then).toFixed(1)} projects finished on average instead of ${finished(now).toFixed(1)}.`;
}

/** What fairness costs, as a sentence; null where shares make no difference. */
export function fairnessWords({ fairness }: Pick<Season, 'fairness'>): string | null {
  if (!fairness) return null;
  const price = `Fairness costs ${priceWords(fairness.price)} of the season’s value`; // prettier-ignore
  return `${price}: hours of members who are behind count for more.`;
}

/** Less than the search can tell from one time to the next. */
const LEAST_PRICE = 0.005;

const priceWords = (price: number): string =>
  price < LEAST_PRICE ? 'less than 0.5 %' : price < 0.01 ? `${(100 * price).toFixed(1)} %` : percent(price);
