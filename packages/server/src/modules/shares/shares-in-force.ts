// Which share a member has of a rig's sky on a night: as agreed for the period, equal for all where nothing was.
import type { SharePeriod } from '@meridiem/contract';
import type { SharedSky } from '@meridiem/core';
import type { MemberRow } from './repository.ts';

export type ShareOf = (memberId: string, rigId: string, skyClass: SharedSky) => number;

export const periodOn = (periods: readonly SharePeriod[], nightDate: string): SharePeriod | null =>
  periods.find(({ firstNight, lastNight }) => firstNight <= nightDate && (!lastNight || nightDate <= lastNight)) ??
  null;

/** @param members those of the night: whoever is none then has no share, whatever was agreed */
export function sharesOn(periods: readonly SharePeriod[], members: readonly MemberRow[], nightDate: string): ShareOf {
  const known = new Set(members.map(({ memberId }) => memberId));
  const period = periodOn(periods, nightDate);
  return (memberId, rigId, skyClass) => {
    if (!known.has(memberId)) return 0;
    return period ? agreedShare(period, { memberId, rigId, skyClass }) : 1 / known.size;
  };
}

/** What names both rig and sky goes before what names one of them, the rig before the sky. */
export function agreedShare(
  { allotments }: Pick<SharePeriod, 'allotments'>,
  { memberId, rigId, skyClass }: { memberId: string; rigId: string; skyClass: SharedSky },
): number {
  const own = allotments.filter(
    (one) =>
      one.memberId === memberId &&
      (one.rigId === null || one.rigId === rigId) &&
      (one.skyClass === null || one.skyClass === skyClass),
  );
  const exact = ({ rigId: rig, skyClass: sky }: (typeof own)[number]): number => 2 * Number(rig !== null) + Number(sky !== null); // prettier-ignore
  return own.toSorted((a, b) => exact(b) - exact(a))[0]?.share ?? 0;
}
