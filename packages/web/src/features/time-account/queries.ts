import type { BodyOf, ChargingRule } from '@meridiem/contract';
import {
  addTimeRemark,
  closeNights,
  editCharging,
  readAccountedNight,
  readTimeAccount,
  withdrawTimeRemark,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export interface Period {
  readonly from: string;
  readonly to: string;
}

export const useTimeAccount = (period: Period | null) =>
  useQuery({
    queryKey: ['ledger', 'time-account', period],
    queryFn: ({ signal }) => call(readTimeAccount, { query: period!, signal }),
    enabled: period !== null,
    placeholderData: (previous) => previous,
  });

export const useAccountedNight = (rigId: string, nightDate: string) =>
  useQuery({
    queryKey: ['ledger', 'time-account', rigId, nightDate],
    queryFn: ({ signal }) => call(readAccountedNight, { params: { id: rigId, nightDate }, signal }),
    placeholderData: (previous) => previous,
  });

export type AccountActs = ReturnType<typeof useAccountActs>;

export function useAccountActs() {
  const queryClient = useQueryClient();
  const refresh = async <T>(answer: Promise<T>): Promise<T> => {
    const value = await answer;
    await queryClient.invalidateQueries({ queryKey: ['ledger'] });
    return value;
  };
  return {
    close: (rigId: string, period: Period) => refresh(call(closeNights, { params: { id: rigId }, body: period })),
    remark: (rigId: string, nightDate: string, body: BodyOf<typeof addTimeRemark>) =>
      refresh(call(addTimeRemark, { params: { id: rigId, nightDate }, body })),
    withdraw: (id: string) => refresh(call(withdrawTimeRemark, { params: { id } })),
    charge: (rule: ChargingRule) => refresh(call(editCharging, { body: rule })),
  };
}
