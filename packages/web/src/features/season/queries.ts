import { askSeason, readObservatory, readSeason } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';
import { useStoredWork } from '../../app/stored-work.ts';

export const useSeason = () =>
  useStoredWork({
    queryKey: ['season'],
    read: (signal) => call(readSeason, { signal }),
    ask: () => call(askSeason, {}),
    isThere: ({ season }) => season !== null,
  });

export const useRigNames = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });
