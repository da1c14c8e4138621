import type { DeliveryQuery } from '@meridiem/contract';
import { readDelivery } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useDelivery = (projectId: string, query: DeliveryQuery) =>
  useQuery({
    queryKey: ['ledger', 'delivery', projectId, query],
    queryFn: ({ signal }) => call(readDelivery, { params: { id: projectId }, query, signal }),
    placeholderData: (previous) => previous,
  });
