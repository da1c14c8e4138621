import type { BodyOf, NewVisitJob } from '@meridiem/contract';
import {
  addVisit,
  addVisitJob,
  askVisitAdvice,
  editVisit,
  readMeasuredAngles,
  readObservatory,
  readVisitAdvice,
  readVisitEffects,
  readVisits,
  settleVisitJob,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';
import { useStoredWork } from '../../app/stored-work.ts';

export const useVisits = () =>
  useQuery({ queryKey: ['visits'], queryFn: ({ signal }) => call(readVisits, { signal }) });

/** What planned work opens and closes, by job. */
export function useVisitEffects() {
  const { data } = useQuery({
    queryKey: ['visits', 'effects'],
    queryFn: ({ signal }) => call(readVisitEffects, { signal }),
  });
  return new Map((data?.effects ?? []).map(({ jobId, hours }) => [jobId, hours]));
}

export const useEquipment = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });

export const useMeasuredAngles = (rigId: string) =>
  useQuery({
    queryKey: ['ledger', 'measured-angles', rigId],
    queryFn: ({ signal }) => call(readMeasuredAngles, { params: { id: rigId }, signal }),
  });

export const useVisitAdvice = () =>
  useStoredWork({
    queryKey: ['visit-advice'],
    read: (signal) => call(readVisitAdvice, { signal }),
    ask: () => call(askVisitAdvice),
    isThere: ({ advice }) => advice !== null,
    isAsked: false,
  });

export type VisitActs = ReturnType<typeof useVisitActs>;

/** What can be done about visits; they are read again after each. */
export function useVisitActs() {
  const queryClient = useQueryClient();
  const after = async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    for (const queryKey of [['visits'], ['observatory']]) await queryClient.invalidateQueries({ queryKey });
    return result;
  };
  return {
    add: (body: BodyOf<typeof addVisit>) => after(call(addVisit, { body })),
    edit: (id: string, body: BodyOf<typeof editVisit>) => after(call(editVisit, { params: { id }, body })),
    addJob: (id: string, body: NewVisitJob) => after(call(addVisitJob, { params: { id }, body })),
    settle: (id: string, body: BodyOf<typeof settleVisitJob>) => after(call(settleVisitJob, { params: { id }, body })),
  };
}
