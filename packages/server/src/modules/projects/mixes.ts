// Exposures of one goal that should not be added up: taken with several gains or cameras.
import type { Queries } from '../../database/connection.ts';
import { mixedGoals } from './goals-repository.ts';

/** In words, by goal; goals whose exposures are alike are left out. */
export async function mixesOf(queries: Queries, projectId: string): Promise<ReadonlyMap<string, string>> {
  const rows = await mixedGoals(queries, projectId);
  return new Map(
    rows.map(({ goalId, gains, cameras }) => {
      const known = gains.filter((gain) => gain !== null);
      const parts = [
        ...(known.length > 1 ? [`gains ${known.join(' and ')}`] : []),
        ...(cameras.length > 1 ? [`cameras ${cameras.join(' and ')}`] : []),
      ];
      return [goalId, parts.join(', ')];
    }),
  );
}
