// A ranking worked out in a worker: what was found last stays while the next one is on its way; a newer wish ends the older.
import type { Worth } from '@meridiem/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { RankOrder, RankReply } from './worker.ts';

export interface Ranking {
  readonly ranked: readonly Worth[] | null;
  /** Share done of the one underway; null when none is. */
  readonly share: number | null;
  readonly tookMs: number | null;
  readonly cancel: () => void;
}

/** @param order null while its parts are still being read */
export function useRanking(order: RankOrder | null): Ranking {
  const [state, setState] = useState<Omit<Ranking, 'cancel'>>({ ranked: null, share: null, tookMs: null });
  const underway = useRef<Worker | null>(null);
  useEffect(() => {
    if (!order) return;
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    underway.current = worker;
    worker.onmessage = ({ data }: MessageEvent<RankReply>) => {
      if ('share' in data) setState((last) => ({ ...last, share: data.share }));
      else setState({ ranked: data.ranked, share: null, tookMs: data.tookMs });
    };
    worker.postMessage(order);
    return () => worker.terminate();
  }, [order]);
  const cancel = useCallback(() => {
    underway.current?.terminate();
    setState((last) => ({ ...last, share: null, ranked: last.ranked ?? [] }));
  }, []);
  return { ...state, cancel };
}
