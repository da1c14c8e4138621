export const name = '2026-11-30-06-00-test-shots';

/** What people have the telescope point at, and photograph, while a night is held. */
export const up = `
CREATE TABLE test_shots (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  run_id uuid NOT NULL,
  exposure_sec float8 CHECK (exposure_sec > 0 AND exposure_sec <= 120),
  filter_letter text,
  binning integer NOT NULL CHECK (binning BETWEEN 1 AND 4),
  ra_deg float8 CHECK (ra_deg >= 0 AND ra_deg < 360),
  dec_deg float8 CHECK (dec_deg BETWEEN -90 AND 90),
  ordered_by uuid NOT NULL REFERENCES people,
  ordered timestamptz NOT NULL DEFAULT clock_timestamp(),
  outcome text CHECK (outcome IN ('done', 'refused')),
  words text,
  picture bytea,
  CONSTRAINT a_place_has_both CHECK ((ra_deg IS NULL) = (dec_deg IS NULL)),
  CONSTRAINT asks_for_something CHECK (exposure_sec IS NOT NULL OR ra_deg IS NOT NULL),
  CONSTRAINT an_outcome_has_words CHECK ((outcome IS NULL) = (words IS NULL)),
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id)
);
CREATE INDEX test_shots_of_run ON test_shots (run_id, ordered DESC);
CREATE UNIQUE INDEX one_test_shot_at_a_time ON test_shots (run_id) WHERE outcome IS NULL;
COMMENT ON TABLE test_shots IS 'By hand in a held night: pointed, photographed, or both. Counted for nobody, and no part of the ledger.';
COMMENT ON COLUMN test_shots.picture IS 'PNG, small and brightened for looking at.';
`;
