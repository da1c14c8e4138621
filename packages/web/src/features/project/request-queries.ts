import type { BodyOf } from '@meridiem/contract';
import {
  askForHours,
  grantRequest,
  queueRequest,
  readProjectRequests,
  returnRequest,
  withdrawRequest,
} from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';
import { useAfterChange } from './after-change.ts';

export const useProjectRequests = (projectId: string) =>
  useQuery({
    queryKey: ['projects', 'requests', projectId],
    queryFn: ({ signal }) => call(readProjectRequests, { params: { id: projectId }, signal }),
  });

export type RequestActs = ReturnType<typeof useRequestActs>;

/** Asking and deciding; the project is read again after each. */
export function useRequestActs(projectId: string) {
  const after = useAfterChange(projectId);
  return {
    ask: (body: BodyOf<typeof askForHours>) => after(call(askForHours, { params: { id: projectId }, body })),
    withdraw: (id: string) => after(call(withdrawRequest, { params: { id } })),
    grant: (id: string, body: BodyOf<typeof grantRequest>) => after(call(grantRequest, { params: { id }, body })),
    return: (id: string, body: BodyOf<typeof returnRequest>) => after(call(returnRequest, { params: { id }, body })),
    queue: (id: string, body: BodyOf<typeof queueRequest>) => after(call(queueRequest, { params: { id }, body })),
  };
}
