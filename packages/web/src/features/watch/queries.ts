import type { HandOrder } from '@meridiem/contract';
import { orderRun, readNight, readRunActions, stopRun } from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useWatchedNight = (nightDate: string) =>
  useQuery({
    queryKey: ['night', nightDate, 'best'],
    queryFn: ({ signal }) => call(readNight, { params: { nightDate }, query: {}, signal }),
    placeholderData: (previous) => previous,
    refetchInterval: 10_000,
  });

export const useRunActions = (runId: string | undefined) =>
  useQuery({
    queryKey: ['night', 'actions', runId],
    queryFn: ({ signal }) => call(readRunActions, { params: { id: runId! }, signal }),
    enabled: runId !== undefined,
    placeholderData: (previous) => previous,
    refetchInterval: 5_000,
  });

/** What is said by hand to a night under way. */
export function useOrders(runId: string) {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['night'] });
  const params = { id: runId };
  const order = useMutation({ mutationFn: (kind: HandOrder) => call(orderRun, { params, body: { kind } }), onSuccess });
  const stop = useMutation({ mutationFn: () => call(stopRun, { params }), onSuccess });
  return { order, stop };
}
