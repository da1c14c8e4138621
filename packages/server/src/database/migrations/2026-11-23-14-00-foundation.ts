export const name = '2026-11-23-14-00-foundation';

/** People, the observatory, its equipment, and what members want. Angles in degrees, times in seconds, lengths in mm. */
export const up = `
CREATE EXTENSION IF NOT EXISTS btree_gist;

CREATE TABLE observatories (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  name text NOT NULL CHECK (name <> ''),
  latitude_deg double precision NOT NULL CHECK (latitude_deg BETWEEN -90 AND 90),
  longitude_deg double precision NOT NULL CHECK (longitude_deg BETWEEN -180 AND 180),
  elevation_m double precision NOT NULL CHECK (elevation_m BETWEEN -450 AND 6500),
  time_zone text NOT NULL,
  sky_zenith_mag_v double precision NOT NULL CHECK (sky_zenith_mag_v BETWEEN 15 AND 22.5),
  bound_sun_altitude_max_deg double precision NOT NULL DEFAULT -9 CHECK (bound_sun_altitude_max_deg <= 0),
  bound_mount_altitude_min_deg double precision NOT NULL DEFAULT 15 CHECK (bound_mount_altitude_min_deg BETWEEN 0 AND 80),
  bound_zenith_hole_deg double precision NOT NULL DEFAULT 0 CHECK (bound_zenith_hole_deg BETWEEN 0 AND 30),
  version integer NOT NULL DEFAULT 1
);

CREATE TABLE people (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  email text NOT NULL UNIQUE CHECK (email = lower(email)),
  name text NOT NULL CHECK (name <> ''),
  password_hash text NOT NULL,
  time_zone text NOT NULL,
  demo_password text
);
COMMENT ON COLUMN people.demo_password IS 'Set only by the demo, whose accounts are public and bound to loopback.';

CREATE TABLE memberships (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  role text NOT NULL CHECK (role IN ('guest', 'member', 'helper', 'coordinator')),
  during tstzrange NOT NULL DEFAULT tstzrange(now(), NULL),
  EXCLUDE USING gist (observatory_id WITH =, person_id WITH =, during WITH &&)
);

CREATE TABLE sessions (
  sid text PRIMARY KEY,
  person_id uuid REFERENCES people,
  content jsonb NOT NULL,
  expires timestamptz NOT NULL
);
CREATE INDEX sessions_expires ON sessions (expires);

CREATE TABLE nights (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  night_date date NOT NULL,
  start_utc timestamptz NOT NULL,
  end_utc timestamptz NOT NULL CHECK (end_utc > start_utc),
  UNIQUE (observatory_id, night_date),
  EXCLUDE USING gist (observatory_id WITH =, tstzrange(start_utc, end_utc) WITH &&)
);

CREATE TABLE horizons (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  during tstzrange NOT NULL DEFAULT tstzrange(now(), NULL),
  points jsonb NOT NULL,
  EXCLUDE USING gist (observatory_id WITH =, during WITH &&)
);

CREATE TABLE settings (
  observatory_id uuid NOT NULL REFERENCES observatories,
  key text NOT NULL,
  value jsonb NOT NULL,
  PRIMARY KEY (observatory_id, key)
);

CREATE TABLE cameras (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  serial text NOT NULL,
  width_px integer NOT NULL CHECK (width_px > 0),
  height_px integer NOT NULL CHECK (height_px > 0),
  pixel_um double precision NOT NULL CHECK (pixel_um > 0),
  dark_current_e_per_s double precision NOT NULL CHECK (dark_current_e_per_s >= 0),
  UNIQUE (observatory_id, id)
);
CREATE TABLE camera_modes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  camera_id uuid NOT NULL,
  name text NOT NULL,
  gain integer NOT NULL CHECK (gain >= 0),
  read_noise_e double precision NOT NULL CHECK (read_noise_e > 0),
  full_well_e double precision NOT NULL CHECK (full_well_e > 0),
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, camera_id) REFERENCES cameras (observatory_id, id)
);

CREATE TABLE rigs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL DEFAULT 0,
  UNIQUE (observatory_id, id),
  UNIQUE (observatory_id, name)
);
CREATE TABLE rig_revisions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  during tstzrange NOT NULL,
  camera_id uuid NOT NULL,
  aperture_mm double precision NOT NULL CHECK (aperture_mm > 0),
  obstruction_share double precision NOT NULL CHECK (obstruction_share >= 0 AND obstruction_share < 0.9),
  focal_length_mm double precision NOT NULL CHECK (focal_length_mm > 0),
  throughput double precision NOT NULL CHECK (throughput > 0 AND throughput <= 1),
  mount_kind text NOT NULL CHECK (mount_kind IN ('german_equatorial', 'fork_equatorial', 'alt_azimuth')),
  flip_before_s double precision NOT NULL CHECK (flip_before_s >= 0),
  flip_after_s double precision NOT NULL CHECK (flip_after_s >= 0),
  mount_limit_after_s double precision NOT NULL,
  rotator_kind text NOT NULL CHECK (rotator_kind IN ('motor', 'hand', 'none')),
  angle_tolerance_deg double precision NOT NULL CHECK (angle_tolerance_deg BETWEEN 0 AND 90),
  costs jsonb NOT NULL,
  UNIQUE (observatory_id, id),
  UNIQUE (rig_id, seq),
  CONSTRAINT flip_before_the_mounts_own_limit CHECK (flip_after_s <= mount_limit_after_s),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, camera_id) REFERENCES cameras (observatory_id, id),
  EXCLUDE USING gist (rig_id WITH =, during WITH &&)
);
CREATE TABLE rig_angles (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  during tstzrange NOT NULL,
  sky_angle_deg double precision NOT NULL CHECK (sky_angle_deg >= 0 AND sky_angle_deg < 360),
  mechanical_deg double precision,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  EXCLUDE USING gist (rig_id WITH =, during WITH &&)
);

CREATE TABLE filters (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  letter text NOT NULL CHECK (letter <> ''),
  name text NOT NULL,
  class text NOT NULL CHECK (class IN ('broadband', 'narrowband', 'colour')),
  centre_nm double precision NOT NULL CHECK (centre_nm BETWEEN 300 AND 1200),
  width_nm double precision NOT NULL CHECK (width_nm > 0),
  extinction_mag double precision NOT NULL CHECK (extinction_mag >= 0),
  sky_zenith_mag double precision NOT NULL,
  moon_factor double precision NOT NULL CHECK (moon_factor >= 0),
  position integer NOT NULL DEFAULT 0,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (observatory_id, id),
  UNIQUE (observatory_id, letter)
);
CREATE TABLE filter_slots (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  slot integer NOT NULL CHECK (slot > 0),
  filter_id uuid NOT NULL,
  focus_offset_steps integer,
  during tstzrange NOT NULL,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, filter_id) REFERENCES filters (observatory_id, id),
  EXCLUDE USING gist (rig_id WITH =, slot WITH =, during WITH &&),
  EXCLUDE USING gist (rig_id WITH =, filter_id WITH =, during WITH &&)
);

CREATE TABLE targets (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL DEFAULT 'fixed' CHECK (kind IN ('fixed', 'moving')),
  ra_deg double precision CHECK (ra_deg >= 0 AND ra_deg < 360),
  dec_deg double precision CHECK (dec_deg BETWEEN -90 AND 90),
  CONSTRAINT both_coordinates_or_neither CHECK ((ra_deg IS NULL) = (dec_deg IS NULL)),
  UNIQUE (observatory_id, id)
);

CREATE TABLE projects (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  owner_id uuid NOT NULL REFERENCES people,
  rig_id uuid NOT NULL,
  target_id uuid NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  state text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'proposed', 'returned', 'queued', 'granted', 'retired')),
  resting boolean NOT NULL DEFAULT false,
  counting text NOT NULL DEFAULT 'all' CHECK (counting IN ('all', 'after_rules', 'after_person')),
  grade integer NOT NULL DEFAULT 2 CHECK (grade BETWEEN 1 AND 3),
  deadline date,
  why text,
  created timestamptz NOT NULL DEFAULT now(),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, target_id) REFERENCES targets (observatory_id, id)
);
CREATE TABLE panels (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  project_id uuid NOT NULL,
  position integer NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  UNIQUE (observatory_id, id),
  UNIQUE (project_id, position),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id)
);
CREATE TABLE panel_pointings (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  panel_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  ra_deg double precision CHECK (ra_deg >= 0 AND ra_deg < 360),
  dec_deg double precision CHECK (dec_deg BETWEEN -90 AND 90),
  position_angle_deg double precision NOT NULL CHECK (position_angle_deg >= 0 AND position_angle_deg < 360),
  created timestamptz NOT NULL DEFAULT now(),
  CONSTRAINT both_coordinates_or_neither CHECK ((ra_deg IS NULL) = (dec_deg IS NULL)),
  UNIQUE (panel_id, seq),
  FOREIGN KEY (observatory_id, panel_id) REFERENCES panels (observatory_id, id)
);

CREATE TABLE recipes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  filter_id uuid NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  UNIQUE (observatory_id, id),
  UNIQUE (rig_id, name),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, filter_id) REFERENCES filters (observatory_id, id)
);
CREATE TABLE recipe_revisions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  recipe_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  camera_mode_id uuid NOT NULL,
  exposure_s double precision NOT NULL CHECK (exposure_s > 0 AND exposure_s <= 7200),
  "offset" integer NOT NULL CHECK ("offset" >= 0),
  binning integer NOT NULL CHECK (binning BETWEEN 1 AND 4),
  sensor_c double precision NOT NULL,
  pause_s double precision NOT NULL CHECK (pause_s >= 0),
  dither_every integer NOT NULL CHECK (dither_every >= 0),
  created timestamptz NOT NULL DEFAULT now(),
  UNIQUE (observatory_id, id),
  UNIQUE (recipe_id, seq),
  FOREIGN KEY (observatory_id, recipe_id) REFERENCES recipes (observatory_id, id),
  FOREIGN KEY (observatory_id, camera_mode_id) REFERENCES camera_modes (observatory_id, id)
);
CREATE TABLE goals (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  panel_id uuid NOT NULL,
  recipe_revision_id uuid NOT NULL,
  wanted integer CHECK (wanted >= 0),
  why text,
  enabled boolean NOT NULL DEFAULT true,
  position integer NOT NULL,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, panel_id) REFERENCES panels (observatory_id, id),
  FOREIGN KEY (observatory_id, recipe_revision_id) REFERENCES recipe_revisions (observatory_id, id)
);
CREATE INDEX goals_panel ON goals (panel_id);
COMMENT ON COLUMN goals.wanted IS 'Null wants without end. What is done or left is always derived from the ledger.';

CREATE TABLE limit_values (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  project_id uuid,
  goal_id uuid,
  class text CHECK (class IN ('broadband', 'narrowband', 'colour')),
  key text NOT NULL,
  value double precision,
  is_off boolean NOT NULL DEFAULT false,
  CONSTRAINT value_or_off CHECK ((value IS NULL) = is_off),
  CONSTRAINT one_scope CHECK (project_id IS NULL OR goal_id IS NULL),
  CONSTRAINT goals_have_no_class CHECK (goal_id IS NULL OR class IS NULL),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id),
  FOREIGN KEY (observatory_id, goal_id) REFERENCES goals (observatory_id, id) ON DELETE CASCADE,
  UNIQUE NULLS NOT DISTINCT (observatory_id, project_id, goal_id, class, key)
);

CREATE TABLE changes (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL REFERENCES observatories,
  at timestamptz NOT NULL DEFAULT now(),
  person_id uuid NOT NULL REFERENCES people,
  entity text NOT NULL,
  entity_id uuid NOT NULL,
  project_id uuid,
  words text NOT NULL,
  before jsonb NOT NULL,
  after jsonb NOT NULL,
  undo_of bigint REFERENCES changes UNIQUE
);
CREATE INDEX changes_person ON changes (person_id, id DESC);
CREATE INDEX changes_entity ON changes (entity, entity_id, id DESC);

CREATE TABLE events (
  seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL REFERENCES observatories,
  topic text NOT NULL,
  ids jsonb NOT NULL DEFAULT '[]',
  at timestamptz NOT NULL DEFAULT now()
);
CREATE FUNCTION announce_event() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('meridiem_events', NEW.seq::text);
  RETURN NULL;
END $$;
CREATE TRIGGER events_announce AFTER INSERT ON events FOR EACH ROW EXECUTE FUNCTION announce_event();
`;
