// What imports read of the ledger.
import type { Identifiable, KnownExposure } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

/** Exposures that one of the frames may be: near its start on its rig, with its key, or with its data. */
export const knownExposures = (
  queries: Queries,
  observatoryId: string,
  frames: readonly Identifiable[],
  withinMs: number,
): Promise<KnownExposure[]> =>
  queries.rows(
    `WITH asked AS (SELECT * FROM jsonb_to_recordset($2::jsonb) AS a ("rigId" uuid, "startUtcMs" float8, "dataSha256" text, "headerKey" text)),
       found AS (
         SELECT e.id FROM asked a JOIN exposures e ON e.observatory_id = $1
           AND e.start_utc BETWEEN to_timestamp((a."startUtcMs" - $3) / 1000) AND to_timestamp((a."startUtcMs" + $3) / 1000)
         UNION SELECT e.id FROM asked a JOIN exposures e ON e.header_key = a."headerKey" AND e.observatory_id = $1
         UNION SELECT e.id FROM asked a JOIN exposures e ON e.data_sha256 = decode(a."dataSha256", 'hex') AND e.observatory_id = $1)
     SELECT e.id AS "exposureId", v.rig_id AS "rigId", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.exposure_s AS "exposureSec",
       encode(e.data_sha256, 'hex') AS "dataSha256", e.header_key AS "headerKey",
       NOT coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true) AS "isWithdrawn"
     FROM found f JOIN exposures e ON e.id = f.id JOIN rig_revisions v ON v.id = e.rig_revision_id`,
    [observatoryId, JSON.stringify(frames), withinMs],
  );
