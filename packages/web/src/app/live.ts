// Live events: the topics that changed make their queries fetch anew, a few times a second at most.
import type { LiveTopic } from '@meridiem/contract';
import { LIVE_TOPICS } from '@meridiem/contract';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { IMPORT_WORK, PLANNED_WORK as WORK } from './stored-work.ts';

/** Which queries (by the first part of their key) a topic touches. */
const TOUCHED: Readonly<Record<LiveTopic, readonly string[]>> = {
  observatory: ['observatory', 'sky', 'night', 'projects', 'project', 'visits', ...WORK],
  projects: ['projects', 'project', 'night', 'shelf', ...WORK],
  ledger: ['ledger', 'ledger-nights', 'projects', 'project', 'night', ...WORK],
  plan: ['night', 'projects', 'project', 'outlook'],
  run: ['watch-steps'],
  notices: ['notices'],
  forecast: ['forecast'],
  jobs: [...WORK, IMPORT_WORK],
};
/** What is heavy to read and changes with every step of a night: a few seconds late is soon enough. */
const TOUCHED_SLOWLY: Readonly<Partial<Record<LiveTopic, readonly string[]>>> = { run: ['night', 'watch'] };
/** Queries of one rig, by the second part of their key: another rig's steps do not touch them. */
const OF_ONE_RIG: readonly string[] = ['watch', 'watch-steps'];
const GATHER_MS = 400;
const GATHER_SLOWLY_MS = 2000;
const REFUSED_MS = 15_000;

/** Follows the stream while mounted.
 * @returns since when nothing is heard, null while connected */
export function useLiveEvents(): number | null {
  const queryClient = useQueryClient();
  const [silentSince, setSilentSince] = useState<number | null>(null);
  useEffect(() => {
    const quickly = gathered(queryClient, GATHER_MS);
    const slowly = gathered(queryClient, GATHER_SLOWLY_MS);
    const refresh = (topic: LiveTopic, ids: readonly string[] = []): void => {
      quickly(TOUCHED[topic], ids);
      slowly(TOUCHED_SLOWLY[topic] ?? [], ids);
    };
    let again: ReturnType<typeof setTimeout> | undefined;
    let source: EventSource;
    const follow = (): void => {
      source = new EventSource('/api/events');
      source.addEventListener('hello', () => {
        setSilentSince(null);
        LIVE_TOPICS.forEach((topic) => refresh(topic));
      });
      source.addEventListener('changed', (event) => {
        const { topic, ids } = JSON.parse((event as MessageEvent<string>).data) as LiveChange;
        refresh(topic, ids);
      });
      source.onerror = () => {
        setSilentSince((since) => since ?? Date.now());
        if (source.readyState !== EventSource.CLOSED) return;
        // Refused, not cut: perhaps one is signed out, perhaps too many pages follow.
        void queryClient.invalidateQueries({ queryKey: ['session'] });
        again = setTimeout(follow, REFUSED_MS);
      };
    };
    follow();
    return () => {
      clearTimeout(again);
      source.close();
    };
  }, [queryClient]);
  return silentSince;
}

interface LiveChange {
  readonly topic: LiveTopic;
  readonly ids: readonly string[];
}

function gathered(
  queryClient: QueryClient,
  afterMs: number,
): (keys: readonly string[], ids: readonly string[]) => void {
  /** By key: which rigs have changed; null for all. */
  const waiting = new Map<string, ReadonlySet<unknown> | null>();
  let timer: ReturnType<typeof setTimeout> | null = null;
  const flush = (): void => {
    timer = null;
    for (const [key, rigs] of waiting)
      void queryClient.invalidateQueries({
        queryKey: [key],
        predicate: ({ queryKey }) => rigs === null || queryKey[1] === null || rigs.has(queryKey[1]),
      });
    waiting.clear();
  };
  return (keys, ids) => {
    for (const key of keys) {
      const isOfRigs = OF_ONE_RIG.includes(key) && ids.length > 0;
      const rigs = waiting.has(key) ? waiting.get(key)! : new Set();
      waiting.set(key, isOfRigs && rigs ? new Set([...rigs, ...ids]) : null);
    }
    if (keys.length > 0) timer ??= setTimeout(flush, afterMs);
  };
}
