import { catalogueAround } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

/** Stars and objects within a radius of a place. */
export const useAround = ({ raDeg, decDeg }: SkyPosition, radiusDeg: number) =>
  useQuery({
    queryKey: ['catalogue', 'around', { raDeg, decDeg }, radiusDeg],
    queryFn: ({ signal }) => call(catalogueAround, { query: { raDeg, decDeg, radiusDeg }, signal }),
    staleTime: Infinity,
  });
