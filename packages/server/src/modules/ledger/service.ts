// The ledger: read by keyset, judged by adding verdicts; nothing here can be changed or erased.
import type { BodyOf, LedgerRow, QueryOf, ResponseOf, judgeExposures, listExposures } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';

const PAGE = 200;

const FROM = `
  FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs r ON r.id = v.rig_id JOIN filters f ON f.id = e.filter_id
  LEFT JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
  LEFT JOIN projects p ON p.id = a.project_id LEFT JOIN panels l ON l.id = a.panel_id
  LEFT JOIN measurements m ON m.exposure_id = e.id
  LEFT JOIN LATERAL verdict_in_force(e.id) j ON true
  LEFT JOIN people b ON b.id = j.person_id
  WHERE e.observatory_id = $1 AND e.kind = 'light'
    AND ($2::uuid IS NULL OR a.project_id = $2) AND ($3::uuid IS NULL OR e.filter_id = $3) AND ($4::date IS NULL OR e.night_date = $4)
    AND ($5::text IS NULL OR coalesce(j.verdict, 'undecided') = $5)`;

export type LedgerService = ReturnType<typeof createLedgerService>;

export function createLedgerService({ database, changes }: { database: Database; changes: ChangeService }) {
  return {
    async list(viewer: Viewer, query: QueryOf<typeof listExposures>): Promise<ResponseOf<typeof listExposures>> {
      const bind = [
        viewer.observatoryId,
        query.project ?? null,
        query.filter ?? null,
        query.night ?? null,
        query.verdict ?? null,
      ];
      const limit = query.limit ?? PAGE;
      const before = query.before ? readKey(query.before) : null;
      const rows = await database.rows<LedgerRow>(
        `SELECT e.id, (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.night_date::text AS "nightDate", p.id AS "projectId", p.name AS "projectName",
           l.name AS "panelName", r.name AS "rigName", f.letter AS "filterLetter", f.class AS "filterClass", e.exposure_s AS "exposureSec", e.gain, e.sensor_c AS "sensorC",
           m.half_flux_radius_px AS "halfFluxRadiusPx", m.star_count AS "starCount", m.guiding_rms_arcsec AS "guidingRmsArcsec", m.background_e AS "backgroundE",
           m.rate_predicted AS "ratePredicted", a.credit_share AS "creditShare", coalesce(j.verdict, 'undecided') AS verdict, j.reason AS "verdictReason",
           b.name AS "verdictBy", j.origin AS "verdictOrigin", ($9 = 'coordinator' OR ($9 <> 'guest' AND p.owner_id = $10)) IS TRUE AS "mayJudge"
         ${FROM} AND ($6::timestamptz IS NULL OR (e.start_utc, e.id) < ($6, $7::uuid))
         ORDER BY e.start_utc DESC, e.id DESC LIMIT $8`,
        [...bind, before?.startUtc ?? null, before?.id ?? null, limit + 1, viewer.role, viewer.personId],
      );
      const page = rows.slice(0, limit);
      const last = page[page.length - 1];
      const totals = await database.one<{
        accepted: number;
        undecided: number;
        rejected: number;
        acceptedHours: number;
      }>(
        `SELECT count(*) FILTER (WHERE j.verdict = 'accepted')::int AS accepted, count(*) FILTER (WHERE coalesce(j.verdict, 'undecided') = 'undecided')::int AS undecided,
           count(*) FILTER (WHERE j.verdict = 'rejected')::int AS rejected, coalesce(sum(e.exposure_s) FILTER (WHERE j.verdict = 'accepted'), 0) / 3600 AS "acceptedHours" ${FROM}`,
        bind,
      );
      return {
        rows: page,
        next: rows.length > limit && last ? `${new Date(last.startUtcMs).toISOString()}_${last.id}` : null,
        totals: totals!,
      };
    },

    nights: (viewer: Viewer): Promise<{ nightDate: string; count: number }[]> =>
      database.rows(
        `SELECT night_date::text AS "nightDate", count(*)::int AS count FROM exposures WHERE observatory_id = $1 GROUP BY night_date ORDER BY night_date DESC LIMIT 400`,
        [viewer.observatoryId],
      ),

    async judge(
      viewer: Viewer,
      { exposureIds, verdict, reason }: BodyOf<typeof judgeExposures>,
    ): Promise<{ changed: number }> {
      return database.transaction(async (queries) => {
        const owners = await queries.rows<{ id: string; ownerId: string | null; projectId: string | null }>(
          `SELECT e.id, p.owner_id AS "ownerId", p.id AS "projectId" FROM exposures e LEFT JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
           LEFT JOIN projects p ON p.id = a.project_id WHERE e.observatory_id = $1 AND e.id = ANY ($2)`,
          [viewer.observatoryId, exposureIds],
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

/** "start_id" of the last row of a page. */
function readKey(text: string): { startUtc: string; id: string } {
  const [startUtc, id] = text.split('_');
  if (Number.isNaN(Date.parse(startUtc)) || !/^[0-9a-f-]{36}$/.test(id ?? ''))
    throw refused('before', 'This page of the ledger can’t be found');
  return { startUtc, id };
}
