// The night that plays, or last played, on a rig, with what it does now and next.
import type { NightRun } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { newestRun, stepsAtWork } from './repository.ts';

export async function currentRunOf(
  queries: Queries,
  viewer: Viewer,
  { rigId, nightDate }: { rigId: string; nightDate: string },
): Promise<NightRun | null> {
  const run = await newestRun(queries, rigId, nightDate);
  if (!run) return null;
  const active = run.state === 'running' || run.state === 'requested' || run.state === 'stopping';
  const { now, next } = active ? await stepsAtWork(queries, viewer, run.id) : { now: null, next: null };
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
