// The standing page's rows and sentences.
import type { Allotment, SharePeriod, Standing, StandingRow } from '@meridiem/contract';
import type { SwapAdvice } from '@meridiem/core';
import { SHARED_SKIES, swapAdvice } from '@meridiem/core';
import { DateTime } from 'luxon';
import { dayOf, hours } from '../../words/format.ts';
import { behindHours, SKY_WORDS } from '../../words/shares.ts';

export interface RigStanding {
  readonly rigId: string;
  readonly rigName: string;
  readonly remark: string;
  /** Members who have a share and no hours yet: nothing of theirs could be exposed. */
  readonly idle: readonly string[];
  readonly members: readonly {
    readonly memberId: string;
    readonly name: string;
    readonly rows: readonly StandingRow[];
  }[];
}

/** A table for each rig: members who have a share or were charged, whoever is furthest behind first. */
export function rigStandings({ rows, counted }: Standing): RigStanding[] {
  return counted.map((rig) => {
    const own = rows.filter(({ rigId }) => rigId === rig.rigId);
    const members = [...new Map(own.map((row) => [row.memberId, row.memberName]))].map(([memberId, name]) => ({
      memberId,
      name,
      rows: SHARED_SKIES.map((sky) => own.find((row) => row.memberId === memberId && row.skyClass === sky)!),
    }));
    const total = (all: readonly StandingRow[]): number => all.reduce((sum, row) => sum + behindHours(row), 0);
    return {
      rigId: rig.rigId,
      rigName: rig.rigName,
      remark: countedWords(rig),
      idle: members.filter(({ rows: all }) => !hasHours(all)).map(({ name }) => name),
      members: members.filter(({ rows: all }) => hasHours(all)).toSorted((a, b) => total(b.rows) - total(a.rows)),
    };
  });
}

const hasHours = (rows: readonly StandingRow[]): boolean =>
  rows.some(({ chargedHours, entitledHours, givenHours }) => chargedHours > 0 || entitledHours > 0 || givenHours !== 0);

function countedWords({
  openNights,
  firstNight,
  lastNight,
  nightsToClose,
  lostHours,
}: Standing['counted'][number]): string {
  const waiting =
    nightsToClose === 0
      ? ''
      : ` ${nightsToClose === 1 ? 'One night with exposures is' : `${nightsToClose} nights with exposures are`} not closed yet and not counted.`;
  if (openNights === 0) return `No closed night had hours that anybody could use.${waiting}`;
  return `${openNights === 1 ? 'One open night' : `${openNights} open nights`} from ${dayOf(firstNight!)} to ${dayOf(lastNight!)}; ${hours(lostHours)} h since then went to weather, faults and visits, which are charged to no one.${waiting}`;
}

/** "Shares agreed from Thu 3 Dec on", "Nothing is agreed: every member has the same share." */
export function sharesWords({ periodInForceId, periods }: Standing): string {
  const period = periods.find(({ id }) => id === periodInForceId);
  if (!period) return 'No shares are agreed for tonight, so every member has the same share.';
  return `Shares agreed ${spanWords(period)}.`;
}

export const spanWords = ({ firstNight, lastNight }: Pick<SharePeriod, 'firstNight' | 'lastNight'>): string =>
  lastNight ? `from ${longDay(firstNight)} to ${longDay(lastNight)}` : `from ${longDay(firstNight)} on`;

const longDay = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('d LLL yyyy');

/** Shares of a member as percentages, one for all or one for each rig and sky that differs. */
export function shareTexts(period: SharePeriod, memberId: string): { label: string; allotment: Allotment }[] {
  return period.allotments
    .filter((allotment) => allotment.memberId === memberId)
    .map((allotment) => ({ label: allotment.skyClass ? SKY_WORDS[allotment.skyClass] : 'all hours', allotment }));
}

/** A percentage as typed, as a share; null where it is none. */
export function typedShare(text: string): number | null {
  const value = Number(text.replace('%', '').replace(',', '.').trim());
  return text.trim() === '' || !Number.isFinite(value) || value < 0 || value > 100 ? null : value / 100;
}

/** Swaps that would bring both members nearer to what they are entitled to. */
export const advisedSwaps = ({ rows }: Standing): SwapAdvice[] =>
  swapAdvice(rows.map((row) => ({ ...row, unusedHours: behindHours(row) }))).slice(0, 3);

export interface MonthRow {
  readonly month: string;
  readonly cells: readonly {
    readonly memberId: string;
    readonly entitledHours: number;
    readonly chargedHours: number;
  }[];
}

export function monthRows({ months }: Standing, memberIds: readonly string[]): MonthRow[] {
  return [...new Set(months.map(({ month }) => month))].map((month) => ({
    month,
    cells: memberIds.map(
      (memberId) =>
        months.find((one) => one.month === month && one.memberId === memberId) ?? {
          memberId,
          entitledHours: 0,
          chargedHours: 0,
        },
    ),
  }));
}
