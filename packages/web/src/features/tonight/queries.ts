import {
  editEarlyEnds,
  fetchForecast,
  importForecast,
  keepHandChange,
  playNight,
  publishPlan,
  readEarlyEnds,
  readForecast,
  readNight,
  readNightStandings,
  rehearseNight,
  stopRun,
} from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

/** Which plan to show: "working", "published", "automatic" or a version as "v2". */
export type PlanWish = string;

export const useStandings = (nightDate: string, enabled: boolean) =>
  useQuery({
    queryKey: ['night', 'standings', nightDate],
    queryFn: ({ signal }) => call(readNightStandings, { params: { nightDate }, signal }),
    enabled,
  });
export const useForecast = (nightDate: string) =>
  useQuery({
    queryKey: ['forecast', nightDate],
    queryFn: ({ signal }) => call(readForecast, { params: { nightDate }, signal }),
    refetchInterval: 600_000,
  });

export const useNight = (nightDate: string, plan: PlanWish | undefined) =>
  useQuery({
    queryKey: ['night', nightDate, plan ?? 'best'],
    queryFn: ({ signal }) => call(readNight, { params: { nightDate }, query: plan ? { plan } : {}, signal }),
    placeholderData: (previous) => previous,
    refetchInterval: ({ state }) => (state.data?.rigs.some((rig) => rig.run?.state === 'running') ? 10_000 : 60_000),
  });

/** What a rig's plan holds, should the night end early; and the chance that plans allow for. */
export function useEarlyEnds(rigId: string, nightDate: string, enabled: boolean) {
  const queryClient = useQueryClient();
  const ends = useQuery({
    queryKey: ['night', 'early-ends', rigId, nightDate],
    queryFn: ({ signal }) => call(readEarlyEnds, { params: { id: rigId, nightDate }, signal }),
    enabled,
  });
  const edit = async (chancePercent: number): Promise<unknown> => {
    await call(editEarlyEnds, { body: { chancePercent } });
    return queryClient.invalidateQueries({ queryKey: ['night'] });
  };
  return { ends, edit };
}

/** Publishing, playing and stopping; the stream refreshes the page. */
export function useNightActions(nightDate: string) {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['night'] });
  const publish = useMutation({
    mutationFn: (body: { rigId: string; reason?: string }) => call(publishPlan, { params: { nightDate }, body }),
    onSuccess,
  });
  const play = useMutation({
    mutationFn: (body: { rigId: string; speed: number }) => call(playNight, { params: { nightDate }, body }),
    onSuccess,
  });
  const rehearse = useMutation({
    mutationFn: (body: { rigId: string; speed: number }) => call(rehearseNight, { params: { nightDate }, body }),
    onSuccess,
  });
  const stop = useMutation({ mutationFn: (id: string) => call(stopRun, { params: { id } }), onSuccess });
  const keep = useMutation({ mutationFn: (id: string) => call(keepHandChange, { params: { id } }), onSuccess });
  return { publish, play, rehearse, stop, keep };
}

export function useForecastActions() {
  const queryClient = useQueryClient();
  const onSuccess = () => queryClient.invalidateQueries({ queryKey: ['forecast'] });
  const ask = useMutation({ mutationFn: () => call(fetchForecast), onSuccess });
  const take = useMutation({ mutationFn: (text: string) => call(importForecast, { body: { text } }), onSuccess });
  return { ask, take };
}
