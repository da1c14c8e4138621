import type { BodyOf, Goal } from '@meridiem/contract';
import {
  addGoal,
  editGoal,
  editPanel,
  editProject,
  listChanges,
  listGoalSets,
  previewLimit,
  putGoals,
  readFits,
  readObservatory,
  readProject,
  removeGoal,
  removeGoalSet,
  saveGoalSet,
  setLimit,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useProject = (id: string) =>
  useQuery({ queryKey: ['project', id], queryFn: ({ signal }) => call(readProject, { params: { id }, signal }) });
export const useObservatory = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });
export const useHistory = (project: string) =>
  useQuery({
    queryKey: ['projects', 'history', project],
    queryFn: ({ signal }) => call(listChanges, { query: { project }, signal }),
  });

/** Every change of a project page: saved as one goes, fetched anew at once. */
export function useProjectChanges(projectId: string) {
  const queryClient = useQueryClient();
  const after = async <T>(work: Promise<T>): Promise<T> => {
    // After a refusal as well: a conflict shows what is stored now, and saving again goes over that.
    try {
      return await work;
    } finally {
      await queryClient.invalidateQueries({ queryKey: ['project', projectId] });
      void queryClient.invalidateQueries({ queryKey: ['projects'] });
    }
  };
  return {
    editProject: (body: BodyOf<typeof editProject>) => after(call(editProject, { params: { id: projectId }, body })),
    editPanel: (id: string, body: BodyOf<typeof editPanel>) => after(call(editPanel, { params: { id }, body })),
    addGoal: (body: BodyOf<typeof addGoal>) => after(call(addGoal, { body })),
    editGoal: (goal: Goal, fields: Omit<BodyOf<typeof editGoal>, 'version'>) =>
      after(call(editGoal, { params: { id: goal.id }, body: { version: goal.version, ...fields } })),
    removeGoal: (id: string) => after(call(removeGoal, { params: { id } })),
    setLimit: (body: BodyOf<typeof setLimit>) => after(call(setLimit, { body })),
  };
}
export type ProjectChanges = ReturnType<typeof useProjectChanges>;

/** How many exposures of a goal fit, by the hours in which it meets every limit. */
export const useFits = (goalId: string, nights: number) =>
  useQuery({
    queryKey: ['project', 'fits', goalId, nights],
    queryFn: ({ signal }) => call(readFits, { params: { id: goalId }, query: { nights }, signal }),
    placeholderData: (previous) => previous,
  });

/** What a limit costs, as it is and as it is being typed. */
export const useLimitEffect = (projectId: string, body: BodyOf<typeof previewLimit>) =>
  useQuery({
    queryKey: ['project', 'limit-effect', projectId, body],
    queryFn: ({ signal }) => call(previewLimit, { params: { id: projectId }, body, signal }),
    placeholderData: (previous) => previous,
  });

/** Named sets of goals, and putting goals on panels at once. */
export function useGoalSets(projectId: string) {
  const queryClient = useQueryClient();
  const { data } = useQuery({
    queryKey: ['projects', 'goal-sets'],
    queryFn: ({ signal }) => call(listGoalSets, { signal }),
  });
  const after = async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    // What was done is said at once: the page may take its time to follow.
    for (const queryKey of [
      ['projects', 'goal-sets'],
      ['project', projectId],
    ])
      void queryClient.invalidateQueries({ queryKey });
    return result;
  };
  return {
    sets: data?.sets ?? [],
    put: (body: BodyOf<typeof putGoals>) => after(call(putGoals, { params: { id: projectId }, body })),
    save: (body: BodyOf<typeof saveGoalSet>) => after(call(saveGoalSet, { body })),
    remove: (id: string) => after(call(removeGoalSet, { params: { id } })),
  };
}
