export const name = '2026-11-29-15-00-equipment';

/** Equipment as its owner sets it: modes of a rig's camera with dated numbers, filters in any number of places, recipes of every kind; what is offered no longer is retired, not deleted. */
export const up = `
ALTER TABLE cameras
  ADD name text NOT NULL DEFAULT '' CHECK (length(name) <= 80),
  ADD sensor text NOT NULL DEFAULT 'mono' CHECK (sensor IN ('mono', 'colour')),
  ADD dark_at_c double precision NOT NULL DEFAULT -10 CHECK (dark_at_c BETWEEN -80 AND 40),
  ADD dark_doubling_c double precision NOT NULL DEFAULT 6 CHECK (dark_doubling_c BETWEEN 2 AND 20),
  ADD cooling_below_c double precision CHECK (cooling_below_c BETWEEN 0 AND 80);
COMMENT ON COLUMN cameras.dark_at_c IS 'Sensor temperature of the dark current; dark_doubling_c degrees more double it.';

ALTER TABLE camera_modes ADD rig_id uuid, ADD retired timestamptz;
UPDATE camera_modes m SET rig_id =
  (SELECT v.rig_id FROM rig_revisions v WHERE v.camera_id = m.camera_id ORDER BY upper_inf(v.during) DESC, v.seq DESC LIMIT 1);
-- A corrected camera was another row with modes of its own: recipes follow to the mode of the same name in force now.
CREATE TEMP TABLE kept_modes AS
  SELECT DISTINCT ON (m.rig_id, m.name) m.id, m.rig_id, m.name
  FROM camera_modes m
  LEFT JOIN LATERAL (SELECT max(v.seq) AS seq FROM rig_revisions v WHERE v.camera_id = m.camera_id AND v.rig_id = m.rig_id) v ON true
  ORDER BY m.rig_id, m.name, v.seq DESC NULLS LAST, m.id;
UPDATE recipe_revisions r SET camera_mode_id = k.id
  FROM camera_modes m JOIN kept_modes k ON k.rig_id = m.rig_id AND k.name = m.name
  WHERE m.id = r.camera_mode_id AND k.id <> m.id;
DELETE FROM camera_modes m WHERE m.rig_id IS NULL OR NOT EXISTS (SELECT 1 FROM kept_modes k WHERE k.id = m.id);
DROP TABLE kept_modes;

CREATE TABLE camera_mode_revisions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  camera_mode_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  during tstzrange NOT NULL,
  gain integer NOT NULL CHECK (gain >= 0),
  gain_kind text NOT NULL DEFAULT 'gain' CHECK (gain_kind IN ('gain', 'sensitivity')),
  read_noise_e double precision NOT NULL CHECK (read_noise_e > 0),
  full_well_e double precision NOT NULL CHECK (full_well_e > 0),
  e_per_adu double precision CHECK (e_per_adu > 0),
  typical_offset integer NOT NULL DEFAULT 30 CHECK (typical_offset >= 0),
  UNIQUE (camera_mode_id, seq),
  FOREIGN KEY (observatory_id, camera_mode_id) REFERENCES camera_modes (observatory_id, id),
  EXCLUDE USING gist (camera_mode_id WITH =, during WITH &&)
);
COMMENT ON TABLE camera_mode_revisions IS 'Numbers of a camera mode, each revision with the stretch of time in which it holds.';
INSERT INTO camera_mode_revisions (observatory_id, camera_mode_id, seq, during, gain, read_noise_e, full_well_e)
  SELECT m.observatory_id, m.id, 1, tstzrange((SELECT min(lower(v.during)) FROM rig_revisions v WHERE v.rig_id = m.rig_id), NULL), m.gain, m.read_noise_e, m.full_well_e
  FROM camera_modes m;
ALTER TABLE camera_modes
  ALTER rig_id SET NOT NULL,
  DROP COLUMN camera_id, DROP COLUMN gain, DROP COLUMN read_noise_e, DROP COLUMN full_well_e,
  ADD FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  ADD UNIQUE (rig_id, name);

ALTER TABLE filters ADD retired timestamptz;
ALTER TABLE rigs ADD retired timestamptz;
ALTER TABLE rig_revisions
  ADD filter_holder text NOT NULL DEFAULT 'wheel' CHECK (filter_holder IN ('wheel', 'drawer')),
  ADD filter_places integer,
  ADD stow_altitude_deg double precision CHECK (stow_altitude_deg BETWEEN -10 AND 90),
  ADD stow_azimuth_deg double precision CHECK (stow_azimuth_deg BETWEEN 0 AND 360),
  ADD roof_clears text NOT NULL DEFAULT 'any' CHECK (roof_clears IN ('any', 'stowed')),
  ADD CONSTRAINT stowed_at_both_or_neither CHECK ((stow_altitude_deg IS NULL) = (stow_azimuth_deg IS NULL));
UPDATE rig_revisions v SET filter_places = greatest(7, (SELECT max(s.slot) FROM filter_slots s WHERE s.rig_id = v.rig_id));
ALTER TABLE rig_revisions
  ALTER filter_places SET NOT NULL,
  ADD CHECK (filter_places BETWEEN 1 AND 24),
  ADD CONSTRAINT a_drawer_holds_one CHECK (filter_holder = 'wheel' OR filter_places = 1);

ALTER TABLE recipes
  ADD kind text NOT NULL DEFAULT 'light' CHECK (kind IN ('light', 'dark', 'flat', 'bias', 'test')),
  ADD owner_id uuid REFERENCES people,
  ADD retired timestamptz,
  ALTER filter_id DROP NOT NULL,
  ADD CONSTRAINT light_comes_through_a_filter CHECK ((kind IN ('dark', 'bias')) = (filter_id IS NULL));
ALTER TABLE recipe_revisions
  ADD dither_px double precision NOT NULL DEFAULT 5 CHECK (dither_px BETWEEN 0 AND 200),
  ADD region_width_px integer CHECK (region_width_px > 0),
  ADD region_height_px integer CHECK (region_height_px > 0),
  ADD CONSTRAINT region_has_both_sides CHECK ((region_width_px IS NULL) = (region_height_px IS NULL));
`;
