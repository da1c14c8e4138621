// Long work that the server stores as a job: asked for where nobody has, followed, stopped, asked for again.
import type { JobShown } from '@meridiem/contract';
import { stopJob } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { call, wordsOf } from './api.ts';
import { useNotice } from './notices.tsx';

/** Work that is planned from everything else: each name is the first part of a query's key, fetched again where anything changes or a job ends. */
export const PLANNED_WORK = [
  'outlook',
  'season',
  'season-reason',
  'consequences',
  'swap-dates',
  'what-if',
  'helps',
  'visit-advice',
  'night-review',
] as const;
/** What an import writes. */
export const IMPORT_WORK = 'import-writing';

export interface StoredWork<T extends { readonly job: JobShown | null }> {
  readonly queryKey: readonly [(typeof PLANNED_WORK)[number] | typeof IMPORT_WORK, ...unknown[]];
  readonly read: (signal: AbortSignal) => Promise<T>;
  readonly ask: () => Promise<unknown>;
  /** Whether it is asked for where nobody has; true where left out. */
  readonly isAsked?: boolean;
  /** Whether an answer holds what was asked for. */
  readonly isThere: (answer: T) => boolean;
}

/** The answer of some stored work, and what can be done about the job that brings it. */
export function useStoredWork<T extends { readonly job: JobShown | null }>({
  queryKey,
  read,
  ask,
  isThere,
  isAsked = true,
}: StoredWork<T>) {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const { data, error } = useQuery({ queryKey, queryFn: ({ signal }) => read(signal) });
  const attempt = (work: Promise<unknown>): void =>
    void work
      .catch((failure: unknown) => notice(wordsOf(failure), true))
      .then(() => queryClient.invalidateQueries({ queryKey }));
  const askAgain = (): void => attempt(ask());
  const isUnasked = data !== undefined && !isThere(data) && (data.job === null || data.job.state === 'done');
  const key = JSON.stringify(queryKey);
  useEffect(() => {
    if (isUnasked && isAsked) askAgain();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each request that nobody has asked for
  }, [isUnasked, key]);
  const job = data?.job ?? null;
  // One that has ended, its result forgotten, is about to be asked for again: there is nothing to stop yet.
  const underWay = job && (job.state === 'waiting' || job.state === 'running') ? job : null;
  return {
    data,
    error,
    job,
    isUnasked: isUnasked && !isAsked,
    isWorking:
      data === undefined ||
      (!isThere(data) && (isAsked || underWay !== null) && job?.state !== 'stopped' && job?.state !== 'failed'),
    share: underWay?.progress ?? 0,
    stop: underWay ? () => attempt(call(stopJob, { params: { id: underWay.id } })) : null,
    ask: askAgain,
  };
}
