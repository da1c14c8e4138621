import type { BodyOf } from '@meridiem/contract';
import { answerJoin, offerJoin, readProjectJoins } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';
import { useAfterChange } from './after-change.ts';

export const useProjectJoins = (projectId: string) =>
  useQuery({
    queryKey: ['projects', 'joins', projectId],
    queryFn: ({ signal }) => call(readProjectJoins, { params: { id: projectId }, signal }),
  });

export type JoinActs = ReturnType<typeof useJoinActs>;

export function useJoinActs(projectId: string) {
  const after = useAfterChange(projectId);
  return {
    offer: (body: BodyOf<typeof offerJoin>) => after(call(offerJoin, { params: { id: projectId }, body })),
    answer: (id: string, answer: BodyOf<typeof answerJoin>['answer']) =>
      after(call(answerJoin, { params: { id }, body: { answer } })),
  };
}
