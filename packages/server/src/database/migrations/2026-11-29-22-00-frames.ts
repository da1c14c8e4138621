export const name = '2026-11-29-22-00-frames';

/** The files of exposures; and steps whose end nobody could say. */
export const up = `
CREATE TABLE frames (
  exposure_id uuid PRIMARY KEY,
  observatory_id uuid NOT NULL,
  name text NOT NULL UNIQUE CHECK (name ~ '^[A-Za-z0-9_-]+(/[A-Za-z0-9_-]+)*/[A-Za-z0-9_-]+\\.fits$' AND length(name) <= 300),
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id)
);
COMMENT ON TABLE frames IS 'Where the file of an exposure lies, under the folder for frames.';

ALTER TABLE run_actions DROP CONSTRAINT run_actions_outcome_check,
  ADD CONSTRAINT run_actions_outcome_check CHECK (outcome IN ('done', 'failed', 'interrupted', 'unknown'));
COMMENT ON COLUMN run_actions.outcome IS 'unknown: whoever did it was lost before it could be said; what is told later takes its place.';
`;
