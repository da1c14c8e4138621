export const name = '2026-11-29-09-00-visits';

/** Visits to the site and the work that needs hands there; what they change becomes a dated fact only when it is confirmed. */
export const up = `
CREATE TABLE visits (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories (id) ON DELETE CASCADE,
  night_date date NOT NULL,
  goes_id uuid REFERENCES people,
  words text NOT NULL DEFAULT '' CHECK (length(words) <= 500),
  person_id uuid NOT NULL REFERENCES people,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  cancelled boolean NOT NULL DEFAULT false,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (observatory_id, id)
);
CREATE UNIQUE INDEX one_visit_a_day ON visits (observatory_id, night_date) WHERE NOT cancelled;
COMMENT ON TABLE visits IS 'Visits to the site, each on the day before a night.';

CREATE TABLE visit_jobs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  visit_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  work text NOT NULL CHECK (work IN ('angle', 'filter', 'cleaning', 'mask', 'focus', 'other')),
  sky_angle_deg double precision CHECK (sky_angle_deg >= 0 AND sky_angle_deg < 360),
  fits_id uuid,
  removes_id uuid,
  words text NOT NULL DEFAULT '' CHECK (length(words) <= 500),
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'done', 'left', 'removed')),
  settled timestamptz,
  settled_by uuid REFERENCES people,
  measured_deg double precision CHECK (measured_deg >= 0 AND measured_deg < 360),
  exposure_id uuid REFERENCES exposures,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  FOREIGN KEY (observatory_id, visit_id) REFERENCES visits (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, fits_id) REFERENCES filters (observatory_id, id),
  FOREIGN KEY (observatory_id, removes_id) REFERENCES filters (observatory_id, id),
  CONSTRAINT a_turn_has_an_angle CHECK ((work = 'angle') = (sky_angle_deg IS NOT NULL)),
  CONSTRAINT an_exchange_has_a_filter CHECK ((work = 'filter') = (fits_id IS NOT NULL)),
  CONSTRAINT only_an_exchange_removes CHECK (removes_id IS NULL OR (work = 'filter' AND removes_id <> fits_id)),
  CONSTRAINT settled_by_somebody CHECK ((state IN ('done', 'left')) = (settled_by IS NOT NULL) AND (settled_by IS NULL) = (settled IS NULL)),
  CONSTRAINT a_turn_is_measured CHECK ((work = 'angle' AND state = 'done') = (measured_deg IS NOT NULL))
);
CREATE INDEX visit_jobs_visit ON visit_jobs (visit_id);
COMMENT ON TABLE visit_jobs IS 'Work of a visit. An angle is confirmed by a measurement: typed by whoever settled it, or of a frame.';
`;
