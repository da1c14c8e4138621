export const name = '2026-11-30-22-00-night-deliveries';

/** That all files of a project's night are on the server is told once, whichever file comes last. */
export const up = `
CREATE TABLE night_deliveries (
  run_id uuid NOT NULL,
  project_id uuid NOT NULL,
  observatory_id uuid NOT NULL,
  files integer NOT NULL CHECK (files > 0),
  size_bytes bigint NOT NULL CHECK (size_bytes > 0),
  told timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (run_id, project_id),
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id)
);
COMMENT ON TABLE night_deliveries IS 'Projects whose owner was told that every file of an ended night is on the server.';
`;
