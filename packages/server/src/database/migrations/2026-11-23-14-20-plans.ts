export const name = '2026-11-23-14-20-plans';

/** Published plans and the nights that play them. */
export const up = `
CREATE TABLE night_plans (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  night_date date NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  state text NOT NULL CHECK (state IN ('published', 'superseded')),
  problem_hash text NOT NULL,
  seed integer NOT NULL,
  iterations integer NOT NULL,
  value double precision NOT NULL,
  published timestamptz NOT NULL DEFAULT now(),
  published_by uuid NOT NULL REFERENCES people,
  UNIQUE (observatory_id, id),
  UNIQUE (rig_id, night_date, seq),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
CREATE UNIQUE INDEX one_published_plan ON night_plans (rig_id, night_date) WHERE state = 'published';

CREATE TABLE plan_blocks (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  plan_id uuid NOT NULL,
  position integer NOT NULL,
  panel_id uuid NOT NULL,
  during tstzrange NOT NULL,
  UNIQUE (plan_id, position),
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, plan_id) REFERENCES night_plans (observatory_id, id),
  FOREIGN KEY (observatory_id, panel_id) REFERENCES panels (observatory_id, id),
  EXCLUDE USING gist (plan_id WITH =, during WITH &&)
);
CREATE TABLE plan_runs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  block_id uuid NOT NULL,
  position integer NOT NULL,
  goal_id uuid NOT NULL,
  start_utc timestamptz NOT NULL,
  end_utc timestamptz NOT NULL,
  exposure_s double precision NOT NULL,
  exposure_starts timestamptz[] NOT NULL,
  mean_rate_share double precision NOT NULL,
  UNIQUE (block_id, position),
  FOREIGN KEY (observatory_id, block_id) REFERENCES plan_blocks (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id)
);
CREATE TABLE plan_omissions (
  plan_id uuid NOT NULL,
  observatory_id uuid NOT NULL,
  goal_id uuid NOT NULL,
  code text NOT NULL,
  numbers jsonb NOT NULL,
  rival_goal_id uuid,
  PRIMARY KEY (plan_id, goal_id),
  FOREIGN KEY (observatory_id, plan_id) REFERENCES night_plans (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id),
  FOREIGN KEY (observatory_id, rival_goal_id) REFERENCES goals (observatory_id, id)
);

CREATE TABLE night_runs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  plan_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  state text NOT NULL DEFAULT 'requested' CHECK (state IN ('requested', 'running', 'stopping', 'stopped', 'finished')),
  speed double precision NOT NULL CHECK (speed >= 1),
  holder text,
  lease_until timestamptz,
  fence integer NOT NULL DEFAULT 0,
  heard timestamptz,
  requested timestamptz NOT NULL DEFAULT now(),
  requested_by uuid NOT NULL REFERENCES people,
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, plan_id) REFERENCES night_plans (observatory_id, id),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
CREATE UNIQUE INDEX one_running_night_per_rig ON night_runs (rig_id) WHERE state IN ('requested', 'running', 'stopping');

CREATE TABLE run_steps (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  goal_id uuid NOT NULL,
  planned_start timestamptz NOT NULL,
  exposure_s double precision NOT NULL,
  rate_share double precision NOT NULL,
  intent timestamptz,
  outcome text CHECK (outcome IN ('done', 'lost')),
  ended timestamptz,
  words text,
  UNIQUE (run_id, seq),
  CONSTRAINT intent_before_outcome CHECK (outcome IS NULL OR intent IS NOT NULL),
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id)
);
ALTER TABLE exposures ADD CONSTRAINT exposures_step FOREIGN KEY (run_step_id) REFERENCES run_steps (id) DEFERRABLE;
`;
