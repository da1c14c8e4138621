import type { BodyOf } from '@meridiem/contract';
import { addProject, listProjects, readNightSky, readObservatory, readShelf } from '@meridiem/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const useProjects = () =>
  useQuery({ queryKey: ['projects'], queryFn: ({ signal }) => call(listProjects, { signal }) });
export const useTonightSky = () =>
  useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
export const useRigs = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });
/** A kept target by its id; nothing is asked for without one. */
export const useShelved = (targetId: string | null) =>
  useQuery({
    queryKey: ['shelf'],
    queryFn: ({ signal }) => call(readShelf, { signal }),
    enabled: targetId !== null,
    select: ({ targets }) => targets.find(({ id }) => id === targetId) ?? null,
  });
export const useAddProject = () =>
  useMutation({ mutationFn: (body: BodyOf<typeof addProject>) => call(addProject, { body }) });
