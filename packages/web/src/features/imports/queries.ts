import type { BodyOf, ImportWriting, JobShown } from '@meridiem/contract';
import {
  applyImport,
  discardImport,
  listImports,
  matchByHand,
  readImport,
  readImportWriting,
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
  const onApplied = (writing: ImportWriting): Promise<void> => {
    if (writing.job) queryClient.setQueryData(['import-writing', id], writing);
    return onSuccess();
  };
  return {
    match: useMutation({
      mutationFn: (body: BodyOf<typeof matchByHand>) => call(matchByHand, { params, body }),
      onSuccess,
    }),
    teach: useMutation({
      mutationFn: (body: BodyOf<typeof teachFilterName>) => call(teachFilterName, { body }),
      onSuccess,
    }),
    apply: useMutation({ mutationFn: () => call(applyImport, { params }), onSuccess: onApplied }),
    discard: useMutation({ mutationFn: () => call(discardImport, { params }), onSuccess }),
  };
}

export interface Writing {
  readonly underWay: JobShown | null;
  /** How the last attempt ended, where it wrote nothing. */
  readonly ended: string | null;
  readonly written: ImportWriting['written'];
}

/** The writing of an import in the background; live events keep it fresh. */
export function useWriting(id: string): Writing {
  const { data } = useQuery({
    queryKey: ['import-writing', id],
    queryFn: ({ signal }) => call(readImportWriting, { params: { id }, signal }),
  });
  const job = data?.job ?? null;
  const isUnderWay = job?.state === 'waiting' || job?.state === 'running';
  const ended =
    job?.state === 'stopped' ? 'Stopped: nothing was written' : job?.state === 'failed' ? job.failure : null;
  return { underWay: isUnderWay ? job : null, ended, written: data?.written ?? null };
}
