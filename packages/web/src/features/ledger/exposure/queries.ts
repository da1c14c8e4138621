import type { BodyOf } from '@meridiem/contract';
import { judgeExposures, measureExposure, noteExposure, readExposure } from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../../app/api.ts';

export const useExposure = (id: string) =>
  useQuery({
    queryKey: ['ledger', 'exposure', id],
    queryFn: ({ signal }) => call(readExposure, { params: { id }, signal }),
    enabled: id !== '',
  });

export function useExposureActs(id: string) {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['ledger'] });
  const judge = useMutation({
    mutationFn: (body: Omit<BodyOf<typeof judgeExposures>, 'exposureIds'>) =>
      call(judgeExposures, { body: { exposureIds: [id], ...body } }),
    onSuccess,
  });
  const note = useMutation({
    mutationFn: (words: string) => call(noteExposure, { params: { id }, body: { words } }),
    onSuccess,
  });
  const measure = useMutation({ mutationFn: () => call(measureExposure, { params: { id }, body: {} }), onSuccess });
  return { judge, note, measure };
}
