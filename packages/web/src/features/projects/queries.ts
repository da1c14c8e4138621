import type { BodyOf } from '@meridiem/contract';
import { addProject, listProjects, readNightSky, readObservatory } from '@meridiem/contract';
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
export const useAddProject = () =>
  useMutation({ mutationFn: (body: BodyOf<typeof addProject>) => call(addProject, { body }) });
