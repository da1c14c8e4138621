import type { BodyOf, QueryOf } from '@meridiem/contract';
import {
  judgeExposures,
  listExposures,
  listLedgerNights,
  listProjects,
  readObservatory,
  readReasons,
} from '@meridiem/contract';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export type LedgerFilters = Pick<QueryOf<typeof listExposures>, 'project' | 'filter' | 'night' | 'verdict'>;

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

export function useJudge() {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: (body: BodyOf<typeof judgeExposures>) => call(judgeExposures, { body }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['ledger'] }),
  });
}

export const useReasons = (filters: LedgerFilters) =>
  useQuery({
    queryKey: ['ledger', 'reasons', filters],
    queryFn: ({ signal }) => call(readReasons, { query: filters, signal }),
    placeholderData: (previous) => previous,
  });
