export const name = '2026-11-23-14-10-ledger';

/** The ledger: exposures and verdicts are only ever added; totals are a view, served from a table that triggers own. */
export const up = `
CREATE TABLE exposures (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_revision_id uuid NOT NULL,
  night_date date NOT NULL,
  kind text NOT NULL DEFAULT 'light' CHECK (kind IN ('light', 'flat', 'dark', 'bias')),
  start_utc timestamptz NOT NULL,
  exposure_s double precision NOT NULL CHECK (exposure_s >= 0),
  filter_id uuid NOT NULL,
  gain integer NOT NULL,
  "offset" integer NOT NULL,
  binning integer NOT NULL,
  sensor_c double precision,
  run_step_id uuid UNIQUE,
  data_sha256 bytea UNIQUE,
  header_key text UNIQUE,
  recorded timestamptz NOT NULL DEFAULT now(),
  UNIQUE (observatory_id, id),
  CONSTRAINT known_by_something CHECK (run_step_id IS NOT NULL OR data_sha256 IS NOT NULL OR header_key IS NOT NULL),
  FOREIGN KEY (observatory_id, rig_revision_id) REFERENCES rig_revisions (observatory_id, id),
  FOREIGN KEY (observatory_id, filter_id) REFERENCES filters (observatory_id, id)
);
CREATE INDEX exposures_newest ON exposures (observatory_id, start_utc DESC, id DESC);
CREATE INDEX exposures_night ON exposures (observatory_id, night_date, start_utc DESC);

CREATE TABLE measurements (
  exposure_id uuid PRIMARY KEY REFERENCES exposures,
  half_flux_radius_px double precision CHECK (half_flux_radius_px > 0),
  star_count integer CHECK (star_count >= 0),
  guiding_rms_arcsec double precision CHECK (guiding_rms_arcsec >= 0),
  background_e double precision CHECK (background_e >= 0),
  temperature_c double precision,
  rate_predicted double precision,
  rate_measured double precision,
  after_move boolean NOT NULL DEFAULT false
);

CREATE TABLE attributions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  exposure_id uuid NOT NULL,
  project_id uuid NOT NULL,
  panel_id uuid NOT NULL,
  goal_id uuid,
  credit_share double precision NOT NULL CHECK (credit_share >= 0),
  reason text NOT NULL,
  withdrawn timestamptz,
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id),
  FOREIGN KEY (observatory_id, panel_id) REFERENCES panels (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id)
);
CREATE UNIQUE INDEX once_per_project ON attributions (exposure_id, project_id) WHERE withdrawn IS NULL;
CREATE INDEX attributions_goal ON attributions (goal_id) WHERE withdrawn IS NULL;
CREATE INDEX attributions_project ON attributions (project_id) WHERE withdrawn IS NULL;

CREATE TABLE verdicts (
  seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL,
  exposure_id uuid NOT NULL,
  origin text NOT NULL CHECK (origin IN ('hand', 'rule')),
  by_coordinator boolean NOT NULL DEFAULT false,
  person_id uuid REFERENCES people,
  verdict text NOT NULL CHECK (verdict IN ('accepted', 'rejected', 'undecided')),
  reason text NOT NULL,
  at timestamptz NOT NULL DEFAULT now(),
  withdraws bigint REFERENCES verdicts UNIQUE,
  CONSTRAINT hands_have_people CHECK (origin = 'rule' OR person_id IS NOT NULL),
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id)
);
CREATE INDEX verdicts_exposure ON verdicts (exposure_id, seq DESC);
COMMENT ON COLUMN verdicts.withdraws IS 'A row with this set says nothing itself; it takes an earlier hand verdict back.';

-- In force: the newest hand verdict not withdrawn (coordinator over member), else the newest rule verdict; no row means undecided.
CREATE FUNCTION verdict_in_force(exposure uuid) RETURNS SETOF verdicts LANGUAGE sql STABLE AS $$
  SELECT v.* FROM verdicts v
  WHERE v.exposure_id = exposure AND v.withdraws IS NULL AND NOT EXISTS (SELECT 1 FROM verdicts w WHERE w.withdraws = v.seq)
  ORDER BY (v.origin = 'hand') DESC, v.by_coordinator DESC, v.seq DESC LIMIT 1
$$;

CREATE FUNCTION verdict_of(exposure uuid) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT coalesce((SELECT verdict FROM verdict_in_force(exposure)), 'undecided')
$$;

CREATE VIEW goal_totals_true AS
SELECT g.id AS goal_id,
  coalesce(sum(a.credit_share) FILTER (WHERE j.verdict = 'accepted'), 0) AS accepted,
  coalesce(sum(a.credit_share) FILTER (WHERE j.verdict = 'undecided'), 0) AS undecided,
  coalesce(sum(a.credit_share) FILTER (WHERE j.verdict = 'rejected'), 0) AS rejected,
  coalesce(sum(e.exposure_s) FILTER (WHERE j.verdict = 'accepted'), 0) AS accepted_s,
  coalesce(sum(e.exposure_s) FILTER (WHERE j.verdict = 'undecided'), 0) AS undecided_s,
  coalesce(sum(e.exposure_s) FILTER (WHERE j.verdict = 'rejected'), 0) AS rejected_s,
  coalesce(sum(e.exposure_s * coalesce(m.rate_measured, m.rate_predicted, 0)) FILTER (WHERE j.verdict = 'accepted'), 0) AS effective_s,
  count(e.id)::int AS exposure_count
FROM goals g
LEFT JOIN attributions a ON a.goal_id = g.id AND a.withdrawn IS NULL
LEFT JOIN exposures e ON e.id = a.exposure_id
LEFT JOIN measurements m ON m.exposure_id = e.id
LEFT JOIN LATERAL (SELECT verdict_of(e.id) AS verdict WHERE e.id IS NOT NULL) j ON true
GROUP BY g.id;

CREATE TABLE goal_totals (
  goal_id uuid PRIMARY KEY REFERENCES goals ON DELETE CASCADE,
  accepted double precision NOT NULL,
  undecided double precision NOT NULL,
  rejected double precision NOT NULL,
  accepted_s double precision NOT NULL,
  undecided_s double precision NOT NULL,
  rejected_s double precision NOT NULL,
  effective_s double precision NOT NULL,
  exposure_count integer NOT NULL
);

CREATE FUNCTION refresh_goal_totals(goal_ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM 1 FROM goals WHERE id = ANY (goal_ids) ORDER BY id FOR UPDATE;
  DELETE FROM goal_totals WHERE goal_id = ANY (goal_ids);
  INSERT INTO goal_totals SELECT * FROM goal_totals_true WHERE goal_id = ANY (goal_ids);
END $$;

CREATE FUNCTION totals_after_goal() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO goal_totals SELECT * FROM goal_totals_true WHERE goal_id IN (SELECT id FROM added);
  RETURN NULL;
END $$;
CREATE TRIGGER goals_totals AFTER INSERT ON goals REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_goal();

CREATE FUNCTION totals_after_exposure_rows() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM refresh_goal_totals(coalesce((
    SELECT array_agg(DISTINCT a.goal_id) FROM attributions a JOIN added n ON n.exposure_id = a.exposure_id WHERE a.goal_id IS NOT NULL), '{}'));
  RETURN NULL;
END $$;
CREATE TRIGGER attributions_totals AFTER INSERT ON attributions REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_exposure_rows();
CREATE TRIGGER attributions_totals_changed AFTER UPDATE ON attributions REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_exposure_rows();
CREATE TRIGGER verdicts_totals AFTER INSERT ON verdicts REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_exposure_rows();
CREATE TRIGGER measurements_totals AFTER INSERT ON measurements REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION totals_after_exposure_rows();

CREATE FUNCTION totals_after_attribution_loss() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM refresh_goal_totals(coalesce((SELECT array_agg(DISTINCT goal_id) FROM lost WHERE goal_id IS NOT NULL), '{}'));
  RETURN NULL;
END $$;
CREATE TRIGGER attributions_totals_left AFTER UPDATE ON attributions REFERENCING OLD TABLE AS lost FOR EACH STATEMENT EXECUTE FUNCTION totals_after_attribution_loss();
CREATE TRIGGER attributions_totals_lost AFTER DELETE ON attributions REFERENCING OLD TABLE AS lost FOR EACH STATEMENT EXECUTE FUNCTION totals_after_attribution_loss();
`;
