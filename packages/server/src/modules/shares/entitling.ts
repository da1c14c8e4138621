// What a night entitled members to, written when it is closed.
import type { OpenStretch, SharedSky, TimeEntry, UsableWork } from '@meridiem/core';
import { entitledHours } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { NewEntitlement } from './repository.ts';
import { insertEntitlements, membersAt, periodsOf } from './repository.ts';
import { sharesOn } from './shares-in-force.ts';

/** Time in which the rig could expose: whatever weather, faults, visits and calibration did not take. */
const OPEN_KINDS: readonly TimeEntry['kind'][] = ['exposing', 'overhead', 'waiting', 'idle'];

export interface ClosedNight {
  readonly observatoryId: string;
  readonly closingId: string;
  readonly rigId: string;
  readonly nightDate: string;
  readonly startUtcMs: number;
  readonly entries: readonly TimeEntry[];
  readonly work: readonly UsableWork[];
  readonly weights: Readonly<Record<SharedSky, number>>;
}

export async function entitle(queries: Queries, night: ClosedNight): Promise<void> {
  const { observatoryId, closingId, rigId, nightDate, startUtcMs, entries, work, weights } = night;
  const members = await membersAt(queries, observatoryId, new Date(startUtcMs));
  const of = sharesOn(await periodsOf(queries, observatoryId), members, nightDate);
  const shareOf = (memberId: string, skyClass: SharedSky): number => of(memberId, rigId, skyClass);
  const open = entries.filter(({ kind }) => OPEN_KINDS.includes(kind)).flatMap(openStretch);
  const rows = entitledHours(open, work, { shareOf, weights }).map((row): NewEntitlement => ({
    ...row,
    share: shareOf(row.memberId, row.skyClass),
  }));
  await insertEntitlements(queries, closingId, rows);
}

const openStretch = ({ skyClass, startUtcMs, endUtcMs }: TimeEntry): OpenStretch[] =>
  skyClass === 'day' ? [] : [{ skyClass, startUtcMs, endUtcMs }];
