import type { BodyOf } from '@meridiem/contract';
import {
  addSharePeriod,
  answerSwap,
  editFairness,
  editSharePeriod,
  giveHours,
  listPeople,
  proposeSwap,
  readObservatory,
  readStanding,
  removeSharePeriod,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useStanding = () =>
  useQuery({ queryKey: ['ledger', 'standing'], queryFn: ({ signal }) => call(readStanding, { signal }) });

export const useMembers = () =>
  useQuery({ queryKey: ['observatory', 'people'], queryFn: ({ signal }) => call(listPeople, { signal }) });

export const useTonight = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) }).data?.tonight;

export type PeriodFields = BodyOf<typeof addSharePeriod>;
export type ShareActs = ReturnType<typeof useShareActs>;

/** What can be done about shares; standing is read again after each. */
export function useShareActs() {
  const queryClient = useQueryClient();
  const after = async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    await queryClient.invalidateQueries({ queryKey: ['ledger', 'standing'] });
    return result;
  };
  return {
    addPeriod: (body: PeriodFields) => after(call(addSharePeriod, { body })),
    editPeriod: (id: string, body: PeriodFields) => after(call(editSharePeriod, { params: { id }, body })),
    removePeriod: (id: string) => after(call(removeSharePeriod, { params: { id } })),
    fairness: (body: BodyOf<typeof editFairness>) => after(call(editFairness, { body })),
    give: (body: BodyOf<typeof giveHours>) => after(call(giveHours, { body })),
    propose: (body: BodyOf<typeof proposeSwap>) => after(call(proposeSwap, { body })),
    answer: (id: string, answer: BodyOf<typeof answerSwap>['answer']) =>
      after(call(answerSwap, { params: { id }, body: { answer } })),
  };
}
