// Live events: the topics that changed make their queries fetch anew, a few times a second at most.
import type { LiveTopic } from '@meridiem/contract';
import { LIVE_TOPICS } from '@meridiem/contract';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

/** Stored work: what is planned from everything else. */
const WORK = ['outlook', 'season', 'consequences', 'what-if', 'helps', 'visit-advice'];
/** Which queries (by the first part of their key) a topic touches. */
const TOUCHED: Readonly<Record<LiveTopic, readonly string[]>> = {
  observatory: ['observatory', 'sky', 'night', 'projects', 'project', 'visits', ...WORK],
  projects: ['projects', 'project', 'night', 'shelf', ...WORK],
  ledger: ['ledger', 'ledger-nights', 'projects', 'project', 'night', ...WORK],
  plan: ['night', 'projects', 'project', 'outlook'],
  run: ['night'],
  notices: ['notices'],
  forecast: ['forecast'],
  jobs: [...WORK, 'import-writing'],
};
const GATHER_MS = 250;
const REFUSED_MS = 15_000;

/** Follows the stream while mounted.
 * @returns since when nothing is heard, null while connected */
export function useLiveEvents(): number | null {
  const queryClient = useQueryClient();
  const [silentSince, setSilentSince] = useState<number | null>(null);
  useEffect(() => {
    const refresh = gathered(queryClient);
    let again: ReturnType<typeof setTimeout> | undefined;
    let source: EventSource;
    const follow = (): void => {
      source = new EventSource('/api/events');
      source.addEventListener('hello', () => {
        setSilentSince(null);
        LIVE_TOPICS.forEach(refresh);
      });
      source.addEventListener('changed', (event) =>
        refresh((JSON.parse((event as MessageEvent<string>).data) as { topic: LiveTopic }).topic),
      );
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

function gathered(queryClient: QueryClient): (topic: LiveTopic) => void {
  const waiting = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | null = null;
  return (topic) => {
    TOUCHED[topic].forEach((key) => waiting.add(key));
    timer ??= setTimeout(() => {
      timer = null;
      for (const key of waiting) void queryClient.invalidateQueries({ queryKey: [key] });
      waiting.clear();
    }, GATHER_MS);
  };
}
