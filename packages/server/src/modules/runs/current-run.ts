// The night that plays, or last played, on a rig, with what it does now and next.
import type { NightRun } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StepRow } from './repository.ts';
import { newestRun, stepsAtWork } from './repository.ts';

export async function currentRunOf(
  queries: Queries,
  viewer: Viewer,
  { rigId, nightDate }: { rigId: string; nightDate: string },
): Promise<NightRun | null> {
  const run = await newestRun(queries, rigId, nightDate);
  if (!run) return null;
  return withSteps(run, isActive(run) ? await stepsAtWork(queries, viewer, run.id) : { now: null, next: null });
}

export const isActive = ({ state }: Pick<NightRun, 'state'>): boolean =>
  state === 'running' || state === 'requested' || state === 'stopping';

/** A run with its step at work and the one after it, in words. */
export function withSteps(
  run: Omit<NightRun, 'now' | 'next'>,
  { now, next }: { readonly now: StepRow | null; readonly next: StepRow | null },
): NightRun {
  return {
    ...run,
    now: now && {
      words: 'Exposing',
      panelName: now.panelName,
      filterLetter: now.filterLetter,
      endsUtcMs: now.startUtcMs + now.exposureSec * 1000,
    },
    next: next && {
      words: 'Then',
      panelName: next.panelName,
      filterLetter: next.filterLetter,
      startsUtcMs: next.startUtcMs,
    },
  };
}
