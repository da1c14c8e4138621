// How far an exposure's figures are from what is usual for its goal, whether a rule looks at them or not.
import type { Deviation } from '@meridiem/contract';
import { figuresAgainst } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { exposuresAround } from './repository.ts';

/** @returns nothing where nothing was measured, or fewer than eight others are there to compare with */
export async function deviationsOf(queries: Queries, exposureId: string): Promise<Deviation[]> {
  const rows = await exposuresAround(queries, exposureId);
  const own = rows.find(({ id }) => id === exposureId);
  return own
    ? figuresAgainst(
        own,
        rows.filter(({ id, verdict }) => id !== exposureId && verdict !== 'rejected'),
      )
    : [];
}
