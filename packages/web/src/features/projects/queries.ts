import type { BodyOf } from '@meridiem/contract';
import { addProject, listProjects, readNightSky, readObservatory, searchCatalogue } from '@meridiem/contract';
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

export const useCatalogue = (text: string) =>
  useQuery({
    queryKey: ['catalogue', text],
    queryFn: ({ signal }) => call(searchCatalogue, { query: { q: text }, signal }),
    enabled: text.trim().length > 1,
    staleTime: Infinity,
  });
