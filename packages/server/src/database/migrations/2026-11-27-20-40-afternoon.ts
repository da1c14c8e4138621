export const name = '2026-11-27-20-40-afternoon';

/** What a coordinator's afternoon needs: hand changes of a night, plans published with a reason, notices, sets of goals, forecasts, steps of a rig, rehearsals. */
export const up = `
ALTER TABLE observatories ADD COLUMN cut_off_clock_min integer NOT NULL DEFAULT 1020 CHECK (cut_off_clock_min BETWEEN 0 AND 1439);
COMMENT ON COLUMN observatories.cut_off_clock_min IS 'Local clock, minutes after midnight: from then on the published plan of the evening is changed only with a reason.';

ALTER TABLE projects
  ADD COLUMN panel_order text NOT NULL DEFAULT 'free' CHECK (panel_order IN ('free', 'one_per_night', 'in_turn')),
  ADD COLUMN filter_group integer NOT NULL DEFAULT 0 CHECK (filter_group BETWEEN 0 AND 20),
  ADD COLUMN step_guide boolean NOT NULL DEFAULT true,
  ADD COLUMN step_centre boolean NOT NULL DEFAULT true,
  ADD COLUMN step_focus boolean NOT NULL DEFAULT true;
COMMENT ON COLUMN projects.filter_group IS 'Exposures of a filter before the next one; 0 finishes each filter before the next.';

CREATE TABLE plan_wishes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  night_date date NOT NULL,
  kind text NOT NULL CHECK (kind IN ('pin', 'ban', 'not_before', 'not_after')),
  goal_id uuid,
  panel_id uuid,
  at timestamptz,
  count integer CHECK (count > 0),
  created timestamptz NOT NULL DEFAULT now(),
  created_by uuid NOT NULL REFERENCES people,
  CONSTRAINT wish_is_whole CHECK (
    CASE kind WHEN 'pin' THEN goal_id IS NOT NULL AND at IS NOT NULL AND count IS NOT NULL
              WHEN 'ban' THEN panel_id IS NOT NULL
              ELSE panel_id IS NOT NULL AND at IS NOT NULL END),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, panel_id) REFERENCES panels (observatory_id, id)
);
CREATE INDEX plan_wishes_night ON plan_wishes (rig_id, night_date);
CREATE UNIQUE INDEX one_wish_of_a_kind ON plan_wishes (rig_id, night_date, panel_id, kind) WHERE kind <> 'pin';

CREATE TABLE plan_drafts (
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  night_date date NOT NULL,
  kept jsonb NOT NULL,
  PRIMARY KEY (rig_id, night_date),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
COMMENT ON TABLE plan_drafts IS 'The runs that a night''s working plan stays near to since its last hand change.';

ALTER TABLE night_plans ADD COLUMN reason text CHECK (length(reason) BETWEEN 1 AND 300);

CREATE TABLE notices (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  at timestamptz NOT NULL DEFAULT now(),
  words text NOT NULL CHECK (words <> ''),
  link text NOT NULL,
  seen timestamptz
);
CREATE INDEX notices_person ON notices (person_id, id DESC);

CREATE TABLE goal_sets (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  created_by uuid NOT NULL REFERENCES people,
  UNIQUE (observatory_id, id),
  UNIQUE (rig_id, name),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
CREATE TABLE goal_set_items (
  set_id uuid NOT NULL REFERENCES goal_sets ON DELETE CASCADE,
  observatory_id uuid NOT NULL,
  position integer NOT NULL,
  recipe_id uuid NOT NULL,
  wanted integer CHECK (wanted >= 0),
  PRIMARY KEY (set_id, position),
  UNIQUE (set_id, recipe_id),
  FOREIGN KEY (observatory_id, recipe_id) REFERENCES recipes (observatory_id, id)
);

CREATE TABLE forecasts (
  observatory_id uuid NOT NULL REFERENCES observatories,
  source text NOT NULL CHECK (source <> ''),
  hour timestamptz NOT NULL,
  issued timestamptz NOT NULL,
  cloud_share double precision NOT NULL CHECK (cloud_share BETWEEN 0 AND 1),
  wind_m_per_s double precision NOT NULL CHECK (wind_m_per_s >= 0),
  humidity_share double precision NOT NULL CHECK (humidity_share BETWEEN 0 AND 1),
  PRIMARY KEY (observatory_id, source, hour)
);

CREATE TABLE rig_steps (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  moment text NOT NULL CHECK (moment IN ('arriving', 'leaving', 'before_wait', 'after_wait')),
  position integer NOT NULL,
  words text NOT NULL CHECK (length(words) BETWEEN 1 AND 200),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);

ALTER TABLE night_runs
  ADD COLUMN kind text NOT NULL DEFAULT 'night' CHECK (kind IN ('night', 'rehearsal')),
  ADD COLUMN expires timestamptz,
  ADD CONSTRAINT rehearsals_expire CHECK ((kind = 'rehearsal') = (expires IS NOT NULL));
`;
