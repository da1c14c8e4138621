// The nights that a page is about, as its address has them; else the last ones.
import { readNightSky } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { nightAfter } from '../words/format.ts';
import { useAddress } from './address.ts';
import { call } from './api.ts';

/** Tonight at the observatory; undefined until it is known. */
export function useTonight(): string | undefined {
  const { data } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
  return data?.sky.nightDate;
}

export interface Nights {
  readonly from: string;
  readonly to: string;
}

/** So many nights, the last of which is given. */
export const nightsUpTo = (last: string, count: number): Nights => ({ from: nightAfter(last, 1 - count), to: last });

/** @param usualNights how many, where the address names none
 * @param last tonight, or the night before it
 * @returns null until it is known which night is tonight */
export function useNights(usualNights: number, last: 'tonight' | 'last night'): Nights | null {
  const [search] = useAddress();
  const tonight = useTonight();
  const to = search.get('to') ?? (tonight && nightAfter(tonight, last === 'tonight' ? 0 : -1));
  const from = search.get('from') ?? (to && nightsUpTo(to, usualNights).from);
  return from && to ? { from, to } : null;
}
