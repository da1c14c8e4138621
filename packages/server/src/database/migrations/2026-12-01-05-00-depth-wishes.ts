export const name = '2026-12-01-05-00-depth-wishes';

/** A project may want a filter as a depth over a share of its field, beside counts. */
export const up = `
CREATE TABLE depth_wishes (
  project_id uuid NOT NULL,
  filter_id uuid NOT NULL,
  observatory_id uuid NOT NULL,
  mag double precision NOT NULL CHECK (mag BETWEEN 15 AND 35),
  share double precision NOT NULL CHECK (share > 0 AND share <= 1),
  PRIMARY KEY (project_id, filter_id),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id),
  FOREIGN KEY (observatory_id, filter_id) REFERENCES filters (observatory_id, id)
);
COMMENT ON TABLE depth_wishes IS 'Limiting surface brightness that a project wants through a filter, magnitudes per square arcsecond, over a share of its field.';
`;
