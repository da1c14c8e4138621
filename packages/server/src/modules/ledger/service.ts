// The ledger: read by keyset, judged by adding verdicts; nothing here can be changed or erased.
import type { BodyOf, QueryOf, ResponseOf, judgeExposures, listExposures } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notAllowed, notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { ledgerChanged } from './changed.ts';
import { ledgerPage } from './list-repository.ts';
import { takeBackVerdicts } from './take-back-verdicts.ts';
import { countsByNight, exposuresWithOwners, insertVerdicts } from './repository.ts';

export type LedgerService = ReturnType<typeof createLedgerService>;

export function createLedgerService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('verdicts', { by: 'owner', takeBack: takeBackVerdicts });
  return {
    list: (viewer: Viewer, query: QueryOf<typeof listExposures>): Promise<ResponseOf<typeof listExposures>> =>
      ledgerPage(database, viewer, query),

    nights: (viewer: Viewer): Promise<{ nightDate: string; count: number }[]> =>
      countsByNight(database, viewer.observatoryId),

    async judge(viewer: Viewer, body: BodyOf<typeof judgeExposures>): Promise<{ changed: number }> {
      const { exposureIds, verdict, reason } = body;
      return database.transaction(async (queries) => {
        const all = await exposuresWithOwners(queries, viewer.observatoryId, exposureIds);
        // Those of private projects of others are not there for the viewer.
        const owners = all.filter(
          ({ ownerId, private: isPrivate }) =>
            ownerId === null || isVisible({ ownerId, private: isPrivate === true }, viewer),
        );
        if (new Set(owners.map((row) => row.id)).size < new Set(exposureIds).size) throw notFound('exposure');
        // One that joined projects share is judged by either owner.
        const own = owners.filter(({ ownerId }) => ownerId === viewer.personId);
        if (viewer.role !== 'coordinator' && new Set(own.map(({ id }) => id)).size < new Set(exposureIds).size)
          throw notAllowed('Some of these exposures belong to another member’s project');
        const seqs = await insertVerdicts(queries, viewer, body);
        const words = `${verdict}: ${seqs.length} exposure${seqs.length === 1 ? '' : 's'} (${reason})`;
        await changes.record(queries, viewer, {
          entity: 'verdicts',
          entityId: exposureIds[0],
          projectId: (own[0] ?? owners[0]).projectId,
          words,
          before: {},
          after: { seqs },
        });
        await ledgerChanged(queries, viewer.observatoryId, []);
        return { changed: seqs.length };
      });
    },
  };
}
