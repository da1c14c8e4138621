// Pages of the ledger by keyset, and the totals of what is shown: from the rows and tallies that triggers keep.
import type { LedgerRow, QueryOf, ResponseOf, listExposures } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

const PAGE = 200;

export type LedgerFilter = Omit<QueryOf<typeof listExposures>, 'before' | 'limit'> & {
  /** One exposure alone. */
  readonly exposure?: string;
};

/** Attributions `x` of a row `r` that joined projects share, each with that of the other project. */
const SHARED = `attributions x JOIN attributions y ON y.exposure_id = x.exposure_id AND y.project_id <> x.project_id AND y.withdrawn IS NULL AND y.charge_share IS NOT NULL
  WHERE x.exposure_id = r.exposure_id AND x.project_id = r.project_id AND x.withdrawn IS NULL AND x.charge_share IS NOT NULL`;
/** Whether a row `r` is an exposure's second one: of the joined project that was given it as well. */
const IS_SECOND = `EXISTS (SELECT 1 FROM ${SHARED} AND y.id < x.id)`;

/** SQL conditions with their values; only what is asked for is written, so that an index fits. */
export function conditionsOf(viewer: Viewer, filter: LedgerFilter, alias = 'r'): { sql: string; bind: unknown[] } {
  const bind: unknown[] = [viewer.observatoryId];
  const parts = [`${alias}.observatory_id = $1`];
  const add = (sql: (place: string) => string, value: unknown): void => {
    bind.push(value);
    parts.push(sql(`$${bind.length}`));
  };
  if (filter.project) {
    add((place) => `${alias}.project_id = ${place}`, filter.project);
    add(
      (place) =>
        `EXISTS (SELECT 1 FROM projects x WHERE x.id = ${alias}.project_id AND ${maySee('x', place, viewer.role)})`,
      viewer.personId,
    );
  }
  if (filter.exposure) add((place) => `${alias}.exposure_id = ${place}`, filter.exposure);
  if (filter.filter) add((place) => `${alias}.filter_id = ${place}`, filter.filter);
  if (filter.night) add((place) => `${alias}.night_date = ${place}`, filter.night);
  if (filter.verdict) add((place) => `${alias}.verdict = ${place}`, filter.verdict);
  return { sql: parts.join(' AND '), bind };
}

export async function ledgerPage(
  queries: Queries,
  viewer: Viewer,
  { before, limit = PAGE, ...filter }: QueryOf<typeof listExposures>,
): Promise<ResponseOf<typeof listExposures>> {
  const rows = await ledgerRows(queries, viewer, { before, limit: limit + 1, ...filter });
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  return {
    rows: page,
    next: rows.length > limit && last ? `${new Date(last.startUtcMs).toISOString()}_${last.id}` : null,
    totals: await ledgerTotals(queries, viewer, filter),
  };
}

/** One exposure's row; null where there is none. */
export const ledgerRowOf = async (queries: Queries, viewer: Viewer, exposure: string): Promise<LedgerRow | null> =>
  (await ledgerRows(queries, viewer, { exposure, limit: 1 }))[0] ?? null;

/** Whether the viewer may look at an exposure: it is there, and its project is not reserved to them. As its row says, only sooner. */
export async function mayLookAt(queries: Queries, viewer: Viewer, exposure: string): Promise<boolean> {
  const { sql, bind } = conditionsOf(viewer, { exposure });
  const seen = maySee('p', `$${bind.length + 1}`, viewer.role);
  const row = await queries.one(
    `SELECT 1 FROM ledger_rows r LEFT JOIN projects p ON p.id = r.project_id WHERE ${sql} AND NOT ${IS_SECOND} AND (p.id IS NULL OR ${seen})`,
    [...bind, viewer.personId],
  );
  return row !== null;
}

type RowsAsked = LedgerFilter & { readonly before?: string; readonly limit: number };

async function ledgerRows(
  queries: Queries,
  viewer: Viewer,
  { before, limit, ...filter }: RowsAsked,
): Promise<LedgerRow[]> {
  const { sql, bind } = conditionsOf(viewer, filter);
  // What joined projects share is one row, unless one of them is asked for.
  const once = filter.project ? '' : `AND NOT ${IS_SECOND}`;
  const key = before ? readKey(before) : null;
  const keyset = key ? `AND (r.start_utc, r.exposure_id) < ($${bind.length + 3}, $${bind.length + 4}::uuid)` : '';
  const [limitAt, viewerAt] = [bind.length + 1, bind.length + 2];
  const seen = maySee('p', `$${viewerAt}`, viewer.role);
  return queries.rows<LedgerRow>(
    `SELECT e.id, (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.night_date::text AS "nightDate", r.project_id AS "projectId",
       CASE WHEN p.id IS NULL THEN NULL WHEN ${seen} THEN p.name ELSE 'reserved' END AS "projectName", CASE WHEN ${seen} THEN l.name END AS "panelName", s.name AS "sharedWithName",
       g.name AS "rigName", f.letter AS "filterLetter", f.class AS "filterClass", e.exposure_s AS "exposureSec", e.gain, e.sensor_c AS "sensorC",
       m.half_flux_radius_px AS "halfFluxRadiusPx", m.star_count AS "starCount", m.guiding_rms_arcsec AS "guidingRmsArcsec", m.background_e AS "backgroundE",
       m.rate_predicted AS "ratePredicted", coalesce(m.after_move, false) AS "afterMove", jsonb_array_length(fm.trails) AS "trailCount", e.is_truncated AS "isTruncated", e.simulated AS "isSimulated", (fr.copied IS NOT NULL) AS "hasFrame",
       CASE WHEN r.goal_id IS NOT NULL THEN r.credit_share END AS "creditShare", r.verdict, j.reason AS "verdictReason",
       b.name AS "verdictBy", j.origin AS "verdictOrigin", (${viewer.role === 'coordinator'} OR (${viewer.role !== 'guest'} AND (p.owner_id = $${viewerAt} OR s.owner_id = $${viewerAt}))) IS TRUE AS "mayJudge"
     FROM (SELECT * FROM ledger_rows r WHERE ${sql} ${once} ${keyset} ORDER BY r.start_utc DESC, r.exposure_id DESC LIMIT $${limitAt}) r
     JOIN exposures e ON e.id = r.exposure_id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs g ON g.id = v.rig_id JOIN filters f ON f.id = r.filter_id
     LEFT JOIN projects p ON p.id = r.project_id LEFT JOIN panels l ON l.id = r.panel_id LEFT JOIN measurements m ON m.exposure_id = e.id
     LEFT JOIN LATERAL (SELECT o.owner_id, CASE WHEN ${maySee('o', `$${viewerAt}`, viewer.role)} THEN o.name ELSE 'reserved' END AS name
       FROM projects o WHERE o.id = (SELECT y.project_id FROM ${SHARED} LIMIT 1)) s ON true
     LEFT JOIN frames fr ON fr.exposure_id = e.id LEFT JOIN frame_measures fm ON fm.exposure_id = e.id LEFT JOIN verdicts j ON j.seq = r.verdict_seq LEFT JOIN people b ON b.id = j.person_id
     ORDER BY r.start_utc DESC, r.exposure_id DESC`,
    [...bind, limit, viewer.personId, ...(key ? [key.startUtc, key.id] : [])],
  );
}

async function ledgerTotals(
  queries: Queries,
  viewer: Viewer,
  filter: LedgerFilter,
): Promise<ResponseOf<typeof listExposures>['totals']> {
  const { sql, bind } = conditionsOf(viewer, filter, 't');
  const shown = conditionsOf(viewer, filter);
  const second = `SELECT r.verdict, -1 AS exposures, -r.exposure_s AS exposure_s FROM attributions a JOIN ledger_rows r ON r.exposure_id = a.exposure_id AND r.project_id = a.project_id
    WHERE a.charge_share IS NOT NULL AND a.withdrawn IS NULL AND ${IS_SECOND} AND ${shown.sql}`;
  const totals = await queries.one<ResponseOf<typeof listExposures>['totals']>(
    `SELECT coalesce(sum(exposures) FILTER (WHERE verdict = 'accepted'), 0)::int AS accepted, coalesce(sum(exposures) FILTER (WHERE verdict = 'undecided'), 0)::int AS undecided,
       coalesce(sum(exposures) FILTER (WHERE verdict = 'rejected'), 0)::int AS rejected, coalesce(sum(exposure_s) FILTER (WHERE verdict = 'accepted'), 0) / 3600 AS "acceptedHours"
     FROM (SELECT verdict, exposures, exposure_s FROM ledger_tallies t WHERE ${sql} ${filter.project ? '' : `UNION ALL ${second}`}) x`,
    bind,
  );
  return totals!;
}

/** "start_id" of the last row of a page. */
function readKey(text: string): { startUtc: string; id: string } {
  const [startUtc, id] = text.split('_');
  if (Number.isNaN(Date.parse(startUtc)) || !/^[0-9a-f-]{36}$/.test(id ?? ''))
    throw refused('before', 'This page of the ledger can’t be found');
  return { startUtc, id };
}
