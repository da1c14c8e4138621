import { readNight, readRunActions } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
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
