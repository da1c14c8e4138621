import type { BodyOf, LedgerRow, QueryOf, ResponseOf } from '@meridiem/contract';
import {
  judgeExposures,
  listExposures,
  listLedgerNights,
  listProjects,
  readObservatory,
  readReasons,
} from '@meridiem/contract';
import type { InfiniteData } from '@tanstack/react-query';
import { useInfiniteQuery, useMutation, useMutationState, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { withVerdict } from './shown-at-once.ts';

export type LedgerFilters = Pick<QueryOf<typeof listExposures>, 'project' | 'filter' | 'night' | 'verdict'>;

type LedgerPages = InfiniteData<ResponseOf<typeof listExposures>>;
const isOfRows = ({ queryKey }: { queryKey: readonly unknown[] }): boolean => typeof queryKey[1] === 'object';

export const useLedger = (filters: LedgerFilters) =>
  useInfiniteQuery({
    queryKey: ['ledger', filters],
    queryFn: ({ pageParam, signal }) =>
      call(listExposures, { query: { ...filters, ...(pageParam ? { before: pageParam } : {}) }, signal }),
    initialPageParam: '',
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (previous) => previous,
  });

export const useLedgerNights = () =>
  useQuery({ queryKey: ['ledger-nights'], queryFn: ({ signal }) => call(listLedgerNights, { signal }) });
export const useLedgerProjects = () =>
  useQuery({ queryKey: ['projects'], queryFn: ({ signal }) => call(listProjects, { signal }) });
export const useLedgerObservatory = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });

type Given = BodyOf<typeof judgeExposures>;
const JUDGE = ['judge'];

/** Verdicts, sent one after the other; the ledger is read again when the last of them is answered. */
export function useJudge() {
  const queryClient = useQueryClient();
  const by = useAccount();
  return useMutation({
    mutationKey: JUDGE,
    scope: { id: 'judge' },
    mutationFn: (body: Given) => call(judgeExposures, { body }),
    onSuccess: async (_answer, given) => {
      // What is being read may have been looked up before this verdict.
      await queryClient.cancelQueries({ queryKey: ['ledger'] });
      queryClient.setQueriesData<LedgerPages>(
        { queryKey: ['ledger'], predicate: isOfRows },
        (data) =>
          data && { ...data, pages: data.pages.map((page) => ({ ...page, rows: withVerdict(page.rows, given, by) })) },
      );
    },
    onSettled: () => {
      if (queryClient.isMutating({ mutationKey: JUDGE }) === 1)
        void queryClient.invalidateQueries({ queryKey: ['ledger'] });
    },
  });
}

/** The rows as they are once every verdict on its way is stored. */
export function useJudged(rows: readonly LedgerRow[]): readonly LedgerRow[] {
  const by = useAccount();
  const onTheWay = useMutationState({
    filters: { mutationKey: JUDGE, status: 'pending' },
    select: ({ state }) => state.variables as Given,
  });
  return useMemo(() => onTheWay.reduce((shown, given) => withVerdict(shown, given, by), rows), [rows, onTheWay, by]);
}

export const useReasons = (filters: LedgerFilters) =>
  useQuery({
    queryKey: ['ledger', 'reasons', filters],
    queryFn: ({ signal }) => call(readReasons, { query: filters, signal }),
    placeholderData: (previous) => previous,
  });
