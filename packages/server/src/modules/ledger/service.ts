// The ledger: read by keyset, judged by adding verdicts; nothing here can be changed or erased.
import type { BodyOf, QueryOf, ResponseOf, judgeExposures, listExposures } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notAllowed, notFound } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { judgeGoals } from './judge-goals.ts';
import { ledgerPage } from './list.ts';
import { takeBackVerdicts } from './take-back-verdicts.ts';

export type LedgerService = ReturnType<typeof createLedgerService>;

export function createLedgerService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('verdicts', { by: 'owner', takeBack: takeBackVerdicts });
  return {
    judgeGoals,

    list: (viewer: Viewer, query: QueryOf<typeof listExposures>): Promise<ResponseOf<typeof listExposures>> =>
      ledgerPage(database, viewer, query),

    nights: (viewer: Viewer): Promise<{ nightDate: string; count: number }[]> =>
      database.rows(
        `SELECT night_date::text AS "nightDate", sum(exposures)::int AS count FROM ledger_tallies WHERE observatory_id = $1 GROUP BY night_date HAVING sum(exposures) > 0 ORDER BY night_date DESC LIMIT 400`,
        [viewer.observatoryId],
      ),

    async judge(
      viewer: Viewer,
      { exposureIds, verdict, reason }: BodyOf<typeof judgeExposures>,
    ): Promise<{ changed: number }> {
      return database.transaction(async (queries) => {
        const all = await queries.rows<{
          id: string;
          ownerId: string | null;
          projectId: string | null;
          private: boolean | null;
        }>(
          `SELECT e.id, p.owner_id AS "ownerId", p.id AS "projectId", p.private FROM exposures e LEFT JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
           LEFT JOIN projects p ON p.id = a.project_id WHERE e.observatory_id = $1 AND e.id = ANY ($2)`,
          [viewer.observatoryId, exposureIds],
        );
        // Those of private projects of others are not there for the viewer.
        const owners = all.filter(
          ({ ownerId, private: isPrivate }) =>
            ownerId === null || isVisible({ ownerId, private: isPrivate === true }, viewer),
        );
        if (new Set(owners.map((row) => row.id)).size < new Set(exposureIds).size) throw notFound('exposure');
        if (viewer.role !== 'coordinator' && owners.some((row) => row.ownerId !== viewer.personId))
          throw notAllowed('Some of these exposures belong to another member’s project');
        const stored = await queries.rows<{ seq: string }>(
          `INSERT INTO verdicts (observatory_id, exposure_id, origin, by_coordinator, person_id, verdict, reason)
           SELECT $1, id, 'hand', $2, $3, $4, $5 FROM unnest($6::uuid[]) AS id RETURNING seq::text`,
          [
            viewer.observatoryId,
            viewer.role === 'coordinator',
            viewer.personId,
            verdict,
            reason,
            [...new Set(exposureIds)],
          ],
        );
        const words = `${verdict}: ${stored.length} exposure${stored.length === 1 ? '' : 's'} (${reason})`;
        await changes.record(queries, viewer, {
          entity: 'verdicts',
          entityId: exposureIds[0],
          projectId: owners[0].projectId,
          words,
          before: {},
          after: { seqs: stored.map((row) => row.seq) },
        });
        for (const topic of ['ledger', 'projects', 'plan'] as const)
          await announce(queries, viewer.observatoryId, topic);
        return { changed: stored.length };
      });
    },
  };
}
