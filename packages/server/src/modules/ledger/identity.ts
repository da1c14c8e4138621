// Whether files are exposures that the ledger knows: by the core's rule, against those of the same rig and moment.
import type { Identifiable, Identity, KnownExposure } from '@meridiem/core';
import { identitiesOf, SAME_START_MS } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { knownExposures } from './repository.ts';

export type Identified = Identifiable & { readonly frameId: string };

export async function identify(
  queries: Queries,
  observatoryId: string,
  files: readonly Identified[],
): Promise<Map<string, Identity>> {
  const known: KnownExposure[] = await knownExposures(queries, observatoryId, files, SAME_START_MS);
  return identitiesOf(files, known);
}
