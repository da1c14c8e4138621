export const name = '2026-11-29-22-00-frames';

/** The files of exposures; and steps whose end nobody could say. */
export const up = `
CREATE TABLE frames (
  exposure_id uuid PRIMARY KEY,
  observatory_id uuid NOT NULL,
  name text NOT NULL UNIQUE CHECK (name ~ '^[A-Za-z0-9_-]+(/[A-Za-z0-9_-]+)*/[A-Za-z0-9_-]+\\.fits$' AND length(name) <= 300),
  size_bytes bigint NOT NULL CHECK (size_bytes > 0),
  sha256 bytea NOT NULL CHECK (length(sha256) = 32),
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id)
);
COMMENT ON TABLE frames IS 'Where the file of an exposure lies, under the folder for frames, and what it is to hold.';

CREATE TABLE exposure_notes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  exposure_id uuid NOT NULL,
  person_id uuid NOT NULL REFERENCES people,
  words text NOT NULL CHECK (length(words) BETWEEN 1 AND 300),
  written timestamptz NOT NULL DEFAULT now(),
  withdrawn timestamptz,
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id)
);
CREATE INDEX exposure_notes_of_exposure ON exposure_notes (exposure_id, written DESC);
COMMENT ON TABLE exposure_notes IS 'What eyes see and numbers do not: halos, gradients, satellites.';

ALTER TABLE run_actions DROP CONSTRAINT run_actions_outcome_check,
  ADD CONSTRAINT run_actions_outcome_check CHECK (outcome IN ('done', 'failed', 'interrupted', 'unknown'));
COMMENT ON COLUMN run_actions.outcome IS 'unknown: whoever did it was lost before it could be said; what is told later takes its place.';
`;
