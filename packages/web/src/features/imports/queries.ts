import type { BodyOf } from '@meridiem/contract';
import {
  applyImport,
  discardImport,
  listImports,
  matchByHand,
  readImport,
  readObservatory,
  teachFilterName,
} from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useImports = () =>
  useQuery({ queryKey: ['ledger', 'imports'], queryFn: ({ signal }) => call(listImports, { signal }) });

export const useImport = (id: string, isReading: boolean) =>
  useQuery({
    queryKey: ['ledger', 'import', id],
    queryFn: ({ signal }) => call(readImport, { params: { id }, signal }),
    refetchInterval: isReading ? 1500 : false,
  });

export const useTimeZone = (): string =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) }).data?.timeZone ??
  'UTC';

export function useImportActs(id: string) {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['ledger'] });
  const params = { id };
  return {
    match: useMutation({
      mutationFn: (body: BodyOf<typeof matchByHand>) => call(matchByHand, { params, body }),
      onSuccess,
    }),
    teach: useMutation({
      mutationFn: (body: BodyOf<typeof teachFilterName>) => call(teachFilterName, { body }),
      onSuccess,
    }),
    apply: useMutation({ mutationFn: () => call(applyImport, { params }), onSuccess }),
    discard: useMutation({ mutationFn: () => call(discardImport, { params }), onSuccess }),
  };
}
