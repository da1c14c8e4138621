import { useQueryClient } from '@tanstack/react-query';

/** A change of a project: what it answers, once the project and the lists are read again. */
export function useAfterChange(projectId: string) {
  const queryClient = useQueryClient();
  return async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    await queryClient.invalidateQueries({ queryKey: ['project', projectId] });
    await queryClient.invalidateQueries({ queryKey: ['projects'] });
    return result;
  };
}
