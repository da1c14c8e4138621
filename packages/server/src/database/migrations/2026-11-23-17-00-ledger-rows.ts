export const name = '2026-11-23-17-00-ledger-rows';

/** What lists and totals are served from: one row an exposure and project with its verdict in force, and tallies of those rows.
 * Triggers own both; the views ending in _true define them from the history alone. */
export const up = `
ALTER TABLE exposures ALTER COLUMN gain DROP NOT NULL, ALTER COLUMN "offset" DROP NOT NULL, ALTER COLUMN filter_id DROP NOT NULL;
ALTER TABLE exposures ADD COLUMN camera_name text, ADD COLUMN observer_name text, ADD COLUMN is_truncated boolean NOT NULL DEFAULT false;
ALTER TABLE exposures ADD CONSTRAINT lights_have_a_filter CHECK (kind <> 'light' OR filter_id IS NOT NULL);
ALTER TABLE measurements ADD COLUMN airmass double precision CHECK (airmass >= 1), ADD COLUMN transparency double precision CHECK (transparency BETWEEN 0 AND 1),
  ADD COLUMN sky_ratio double precision CHECK (sky_ratio > 0);
ALTER TABLE attributions ADD COLUMN coverage double precision CHECK (coverage BETWEEN 0 AND 1);

ALTER TABLE projects ADD COLUMN private boolean NOT NULL DEFAULT false, ADD COLUMN judging boolean NOT NULL DEFAULT true;

CREATE TABLE imports (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  source text NOT NULL CHECK (source <> ''),
  state text NOT NULL DEFAULT 'preview' CHECK (state IN ('preview', 'applied', 'undone')),
  created timestamptz NOT NULL DEFAULT now(),
  applied timestamptz,
  UNIQUE (observatory_id, id),
  CONSTRAINT applied_has_a_time CHECK ((state = 'preview') = (applied IS NULL))
);
CREATE TABLE import_files (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  import_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq >= 0),
  name text NOT NULL,
  size_bytes bigint NOT NULL CHECK (size_bytes >= 0),
  facts jsonb,
  refused text,
  by_hand jsonb NOT NULL DEFAULT '{}',
  data_sha256 bytea,
  outcome text CHECK (outcome IN ('added', 'known')),
  exposure_id uuid,
  UNIQUE (import_id, seq),
  CONSTRAINT facts_or_the_reason CHECK ((facts IS NULL) <> (refused IS NULL)),
  FOREIGN KEY (observatory_id, import_id) REFERENCES imports (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id)
);
CREATE INDEX import_files_exposure ON import_files (exposure_id);

CREATE TABLE exposure_presence (
  seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL,
  exposure_id uuid NOT NULL,
  import_id uuid NOT NULL,
  present boolean NOT NULL,
  at timestamptz NOT NULL DEFAULT now(),
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id),
  FOREIGN KEY (observatory_id, import_id) REFERENCES imports (observatory_id, id)
);
CREATE INDEX exposure_presence_newest ON exposure_presence (exposure_id, seq DESC);
COMMENT ON TABLE exposure_presence IS 'An import taken back leaves its exposures; the newest row says whether one belongs to the ledger. No row: it does.';

-- An exposure that was known without its data unit's hash or its header key learns them once, and never other ones.
CREATE FUNCTION fill_exposure_identity(exposure uuid, sha bytea, key text) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  UPDATE exposures SET data_sha256 = coalesce(data_sha256, sha), header_key = coalesce(header_key, key)
  WHERE id = exposure AND ((data_sha256 IS NULL AND sha IS NOT NULL) OR (header_key IS NULL AND key IS NOT NULL))
$$;

CREATE VIEW ledger_rows_true AS
SELECT e.observatory_id, e.id AS exposure_id, a.project_id, a.panel_id, a.goal_id, e.filter_id, e.night_date, e.start_utc, e.exposure_s,
  coalesce(a.credit_share, 0) AS credit_share, coalesce(j.verdict, 'undecided') AS verdict, j.seq AS verdict_seq
FROM exposures e
LEFT JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
LEFT JOIN LATERAL verdict_in_force(e.id) j ON true
WHERE e.kind = 'light' AND coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true);

CREATE TABLE ledger_rows (
  observatory_id uuid NOT NULL,
  exposure_id uuid NOT NULL REFERENCES exposures,
  project_id uuid,
  panel_id uuid,
  goal_id uuid,
  filter_id uuid NOT NULL,
  night_date date NOT NULL,
  start_utc timestamptz NOT NULL,
  exposure_s double precision NOT NULL,
  credit_share double precision NOT NULL,
  verdict text NOT NULL,
  verdict_seq bigint,
  CONSTRAINT one_row_a_project UNIQUE NULLS NOT DISTINCT (exposure_id, project_id)
);
CREATE INDEX ledger_rows_newest ON ledger_rows (observatory_id, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_project ON ledger_rows (project_id, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_filter ON ledger_rows (observatory_id, filter_id, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_verdict ON ledger_rows (observatory_id, verdict, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_filter_verdict ON ledger_rows (observatory_id, filter_id, verdict, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_night ON ledger_rows (observatory_id, night_date, start_utc DESC, exposure_id DESC);
CREATE INDEX ledger_rows_goal ON ledger_rows (goal_id, start_utc DESC);

CREATE TABLE ledger_tallies (
  observatory_id uuid NOT NULL,
  project_id uuid,
  filter_id uuid NOT NULL,
  night_date date NOT NULL,
  verdict text NOT NULL,
  exposures integer NOT NULL,
  exposure_s double precision NOT NULL,
  CONSTRAINT one_tally UNIQUE NULLS NOT DISTINCT (observatory_id, project_id, filter_id, night_date, verdict)
);
CREATE INDEX ledger_tallies_project ON ledger_tallies (project_id);

CREATE VIEW ledger_tallies_true AS
SELECT observatory_id, project_id, filter_id, night_date, verdict, count(*)::int AS exposures, sum(exposure_s) AS exposure_s
FROM ledger_rows_true GROUP BY 1, 2, 3, 4, 5;

CREATE FUNCTION tally_ledger_rows() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE added text := ''; lost text := '';
BEGIN
  IF TG_OP <> 'DELETE' THEN added := 'SELECT *, 1 AS sign FROM new_rows'; END IF;
  IF TG_OP <> 'INSERT' THEN lost := 'SELECT *, -1 AS sign FROM old_rows'; END IF;
  EXECUTE 'INSERT INTO ledger_tallies AS t (observatory_id, project_id, filter_id, night_date, verdict, exposures, exposure_s)
    SELECT observatory_id, project_id, filter_id, night_date, verdict, sum(sign), sum(sign * exposure_s)
    FROM (' || added || CASE WHEN added <> '' AND lost <> '' THEN ' UNION ALL ' ELSE '' END || lost || ') d
    GROUP BY 1, 2, 3, 4, 5 HAVING sum(sign) <> 0 OR sum(sign * exposure_s) <> 0 ORDER BY 1, 2, 3, 4, 5
    ON CONFLICT ON CONSTRAINT one_tally DO UPDATE SET exposures = t.exposures + EXCLUDED.exposures, exposure_s = t.exposure_s + EXCLUDED.exposure_s';
  RETURN NULL;
END $$;
CREATE TRIGGER ledger_rows_added AFTER INSERT ON ledger_rows REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION tally_ledger_rows();
CREATE TRIGGER ledger_rows_changed AFTER UPDATE ON ledger_rows REFERENCING NEW TABLE AS new_rows OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION tally_ledger_rows();
CREATE TRIGGER ledger_rows_lost AFTER DELETE ON ledger_rows REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION tally_ledger_rows();

-- A goal's totals from its served rows; goal_totals_true says the same from the history.
CREATE OR REPLACE FUNCTION refresh_goal_totals(goal_ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM 1 FROM goals WHERE id = ANY (goal_ids) ORDER BY id FOR NO KEY UPDATE;
  DELETE FROM goal_totals WHERE goal_id = ANY (goal_ids);
  INSERT INTO goal_totals
  SELECT g.id,
    coalesce(sum(r.credit_share) FILTER (WHERE r.verdict = 'accepted'), 0), coalesce(sum(r.credit_share) FILTER (WHERE r.verdict = 'undecided'), 0),
    coalesce(sum(r.credit_share) FILTER (WHERE r.verdict = 'rejected'), 0), coalesce(sum(r.exposure_s) FILTER (WHERE r.verdict = 'accepted'), 0),
    coalesce(sum(r.exposure_s) FILTER (WHERE r.verdict = 'undecided'), 0), coalesce(sum(r.exposure_s) FILTER (WHERE r.verdict = 'rejected'), 0),
    coalesce(sum(r.exposure_s * coalesce(m.rate_measured, m.rate_predicted, 0)) FILTER (WHERE r.verdict = 'accepted'), 0), count(r.exposure_id)::int
  FROM goals g LEFT JOIN ledger_rows r ON r.goal_id = g.id LEFT JOIN measurements m ON m.exposure_id = r.exposure_id
  WHERE g.id = ANY (goal_ids) GROUP BY g.id;
END $$;

CREATE FUNCTION refresh_exposures(ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE goals_touched uuid[];
BEGIN
  PERFORM 1 FROM exposures WHERE id = ANY (ids) ORDER BY id FOR NO KEY UPDATE;
  SELECT array_agg(DISTINCT goal_id) INTO goals_touched FROM ledger_rows WHERE exposure_id = ANY (ids) AND goal_id IS NOT NULL;
  DELETE FROM ledger_rows r WHERE r.exposure_id = ANY (ids)
    AND NOT EXISTS (SELECT 1 FROM ledger_rows_true t WHERE t.exposure_id = r.exposure_id AND t.project_id IS NOT DISTINCT FROM r.project_id);
  INSERT INTO ledger_rows AS r SELECT * FROM ledger_rows_true WHERE exposure_id = ANY (ids) ORDER BY exposure_id
  ON CONFLICT ON CONSTRAINT one_row_a_project DO UPDATE SET panel_id = EXCLUDED.panel_id, goal_id = EXCLUDED.goal_id, credit_share = EXCLUDED.credit_share,
    verdict = EXCLUDED.verdict, verdict_seq = EXCLUDED.verdict_seq
  WHERE (r.panel_id, r.goal_id, r.credit_share, r.verdict, r.verdict_seq) IS DISTINCT FROM (EXCLUDED.panel_id, EXCLUDED.goal_id, EXCLUDED.credit_share, EXCLUDED.verdict, EXCLUDED.verdict_seq);
  SELECT array_agg(DISTINCT goal_id) INTO goals_touched FROM (
    SELECT unnest(goals_touched) AS goal_id UNION SELECT goal_id FROM ledger_rows WHERE exposure_id = ANY (ids) AND goal_id IS NOT NULL) g;
  PERFORM refresh_goal_totals(coalesce(goals_touched, '{}'));
END $$;

CREATE OR REPLACE FUNCTION totals_after_exposure_rows() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM refresh_exposures(coalesce((SELECT array_agg(DISTINCT exposure_id) FROM added), '{}'));
  RETURN NULL;
END $$;
CREATE FUNCTION rows_after_exposures() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM refresh_exposures(coalesce((SELECT array_agg(id) FROM added WHERE kind = 'light'), '{}'));
  RETURN NULL;
END $$;
CREATE TRIGGER exposures_rows AFTER INSERT ON exposures REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION rows_after_exposures();
CREATE TRIGGER presence_rows AFTER INSERT ON exposure_presence REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_exposure_rows();

-- Attributions are withdrawn, never removed, so the rows before an update name every goal that loses.
DROP TRIGGER attributions_totals_left ON attributions;
DROP TRIGGER attributions_totals_lost ON attributions;
DROP FUNCTION totals_after_attribution_loss();

INSERT INTO ledger_rows SELECT * FROM ledger_rows_true;
`;
