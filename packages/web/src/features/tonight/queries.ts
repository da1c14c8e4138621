import { playNight, publishPlan, readNight, stopRun } from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export type PlanWish = 'working' | 'published';

export const useNight = (nightDate: string, plan: PlanWish | undefined) =>
  useQuery({
    queryKey: ['night', nightDate, plan ?? 'best'],
    queryFn: ({ signal }) => call(readNight, { params: { nightDate }, query: plan ? { plan } : {}, signal }),
    placeholderData: (previous) => previous,
    refetchInterval: ({ state }) => (state.data?.rigs.some((rig) => rig.run?.state === 'running') ? 10_000 : 60_000),
  });

/** Publishing, playing and stopping; the stream refreshes the page. */
export function useNightActions(nightDate: string) {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['night'] });
  const publish = useMutation({
    mutationFn: (rigId: string) => call(publishPlan, { params: { nightDate }, body: { rigId } }),
    onSuccess,
  });
  const play = useMutation({
    mutationFn: (body: { rigId: string; speed: number }) => call(playNight, { params: { nightDate }, body }),
    onSuccess,
  });
  const stop = useMutation({ mutationFn: (id: string) => call(stopRun, { params: { id } }), onSuccess });
  return { publish, play, stop };
}
