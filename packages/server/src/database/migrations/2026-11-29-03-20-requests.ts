export const name = '2026-11-29-03-20-requests';

/** What is asked for a project, how it was decided, and the hours that were granted. */
export const up = `
ALTER TABLE projects ADD COLUMN own_rank integer NOT NULL DEFAULT 2 CHECK (own_rank BETWEEN 1 AND 3);
COMMENT ON COLUMN projects.own_rank IS 'The owner''s own order among their projects: 3 first, 1 last.';

CREATE TABLE requests (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  project_id uuid NOT NULL,
  person_id uuid NOT NULL REFERENCES people,
  dark_hours double precision NOT NULL CHECK (dark_hours >= 0 AND dark_hours <= 10000),
  bright_hours double precision NOT NULL CHECK (bright_hours >= 0 AND bright_hours <= 10000),
  words text NOT NULL DEFAULT '' CHECK (length(words) <= 1000),
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'queued', 'granted', 'returned', 'withdrawn')),
  remark text CHECK (length(remark) <= 1000),
  remark_field text CHECK (remark_field IN ('hours', 'goals', 'framing', 'limits', 'deadline', 'words')),
  queue_place integer CHECK (queue_place > 0),
  decided_by uuid REFERENCES people,
  decided timestamptz,
  decided_alone boolean NOT NULL DEFAULT false,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id) ON DELETE CASCADE,
  CONSTRAINT asks_for_something CHECK (dark_hours + bright_hours > 0),
  CONSTRAINT decided_by_somebody CHECK ((state IN ('queued', 'granted', 'returned')) = (decided_by IS NOT NULL)),
  CONSTRAINT nobody_decides_their_own CHECK (decided_by IS NULL OR decided_by <> person_id OR decided_alone),
  CONSTRAINT queued_with_a_place CHECK ((state = 'queued') = (queue_place IS NOT NULL)),
  CONSTRAINT returned_with_a_remark CHECK (state <> 'returned' OR length(remark) > 0)
);
CREATE UNIQUE INDEX one_request_at_a_time ON requests (project_id) WHERE state IN ('open', 'queued');
COMMENT ON TABLE requests IS 'Charged hours asked for a project, apart from what is granted already: plans read the grants only.';

CREATE TABLE grants (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  project_id uuid NOT NULL,
  request_id uuid NOT NULL,
  dark_hours double precision NOT NULL CHECK (dark_hours >= 0 AND dark_hours <= 10000),
  bright_hours double precision NOT NULL CHECK (bright_hours >= 0 AND bright_hours <= 10000),
  person_id uuid NOT NULL REFERENCES people,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  withdrawn timestamptz,
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, request_id) REFERENCES requests (observatory_id, id)
);
CREATE INDEX grants_project ON grants (project_id) WHERE withdrawn IS NULL;
COMMENT ON TABLE grants IS 'Charged hours granted to a project; their sum is its envelope. A project without any has no bound.';
`;
