import type { BodyOf } from '@meridiem/contract';
import { editMessageChannels, readMessageChannels, sendTestMessage } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

const KEY = ['notices', 'channels'];

export const useChannels = () =>
  useQuery({ queryKey: KEY, queryFn: ({ signal }) => call(readMessageChannels, { signal }), refetchInterval: 5_000 });

export function useChannelActs() {
  const queryClient = useQueryClient();
  const after = async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    await queryClient.invalidateQueries({ queryKey: KEY });
    return result;
  };
  return {
    edit: (body: BodyOf<typeof editMessageChannels>) => after(call(editMessageChannels, { body })),
    test: () => after(call(sendTestMessage)),
  };
}
