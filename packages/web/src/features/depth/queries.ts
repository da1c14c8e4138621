// A project's goals beside its depth, and their counts set by what the depth says.
import type { Goal } from '@meridiem/contract';
import { editGoal, readProject } from '@meridiem/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export interface NewCount {
  readonly goal: Goal;
  readonly count: number;
}

/** @returns none while they are on their way */
export function useGoals(projectId: string): readonly Goal[] {
  const { data } = useQuery({
    queryKey: ['project', projectId],
    queryFn: ({ signal }) => call(readProject, { params: { id: projectId }, signal }),
  });
  return (data?.panels ?? []).flatMap((panel) => panel.goals);
}

/** One goal after the other: each can be undone. */
export function useWantCounts(projectId: string) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: async (counts: readonly NewCount[]) => {
      for (const { goal, count } of counts)
        await call(editGoal, { params: { id: goal.id }, body: { version: goal.version, wanted: count } });
    },
    onSettled: () => queryClient.invalidateQueries({ queryKey: ['project', projectId] }),
  });
}
