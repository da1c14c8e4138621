import type { BodyOf, HandOrder } from '@meridiem/contract';
import { listExposures, orderRun, orderTestShot, readRunActions, readWatch, stopRun } from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

/** A rig's night; the stream of changes asks for it again at that rig's steps only. @param rigId null: whichever rig has one */
export const useWatchedNight = (nightDate: string, rigId: string | null) =>
  useQuery({
    queryKey: ['watch', rigId, nightDate],
    queryFn: ({ signal }) =>
      call(readWatch, { params: { nightDate }, query: rigId === null ? {} : { rig: rigId }, signal }),
    placeholderData: (previous) => previous,
    refetchInterval: 10_000,
  });

export const useRunActions = (rigId: string | undefined, runId: string | undefined) =>
  useQuery({
    queryKey: ['watch-steps', rigId, runId],
    queryFn: ({ signal }) => call(readRunActions, { params: { id: runId! }, signal }),
    enabled: runId !== undefined,
    placeholderData: (previous) => previous,
    refetchInterval: 10_000,
  });

const NEWEST = 20;

/** The newest exposure of a rig's night whose file was kept; refreshed by the stream of changes. */
export function useLatestExposure(nightDate: string, rigName: string) {
  const { data } = useQuery({
    queryKey: ['ledger', 'latest', nightDate],
    queryFn: ({ signal }) => call(listExposures, { query: { night: nightDate, limit: NEWEST }, signal }),
    placeholderData: (previous) => previous,
    refetchInterval: 10_000,
  });
  return data?.rows.find((row) => row.hasFrame && row.rigName === rigName && row.projectName !== RESERVED);
}
const RESERVED = 'reserved';

/** What is said by hand to a night under way. */
export function useOrders(runId: string) {
  const queryClient = useQueryClient();
  const onSuccess = () =>
    Promise.all(['watch', 'watch-steps'].map((key) => queryClient.invalidateQueries({ queryKey: [key] })));
  const params = { id: runId };
  const order = useMutation({ mutationFn: (kind: HandOrder) => call(orderRun, { params, body: { kind } }), onSuccess });
  const stop = useMutation({ mutationFn: () => call(stopRun, { params }), onSuccess });
  return { order, stop };
}

export function useTestShot(runId: string) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: (body: BodyOf<typeof orderTestShot>) => call(orderTestShot, { params: { id: runId }, body }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['watch-steps'] }),
  });
}
