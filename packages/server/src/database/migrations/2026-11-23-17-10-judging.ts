export const name = '2026-11-23-17-10-judging';

/** Rules that judge exposures, and alerts for people to look at. */
export const up = `
CREATE TABLE rule_revisions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  star_size_sigmas double precision CHECK (star_size_sigmas BETWEEN 1 AND 20),
  star_count_sigmas double precision CHECK (star_count_sigmas BETWEEN 1 AND 20),
  guiding_sigmas double precision CHECK (guiding_sigmas BETWEEN 1 AND 20),
  background_sigmas double precision CHECK (background_sigmas BETWEEN 1 AND 20),
  person_id uuid NOT NULL REFERENCES people,
  at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (rig_id, seq),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
COMMENT ON TABLE rule_revisions IS 'The newest per rig is in force; null switches a rule off. Without a row the defaults of the core apply.';

CREATE TABLE alerts (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  project_id uuid,
  at timestamptz NOT NULL DEFAULT now(),
  kind text NOT NULL CHECK (kind IN ('new_level')),
  words text NOT NULL,
  exposure_id uuid REFERENCES exposures,
  seen_by uuid REFERENCES people,
  seen timestamptz,
  CONSTRAINT seen_by_somebody CHECK ((seen IS NULL) = (seen_by IS NULL)),
  CONSTRAINT one_alert_an_exposure UNIQUE (kind, exposure_id),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id)
);
CREATE INDEX alerts_open ON alerts (observatory_id, at DESC) WHERE seen IS NULL;
`;
