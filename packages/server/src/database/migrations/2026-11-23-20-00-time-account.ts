export const name = '2026-11-23-20-00-time-account';

/** The time account: what a rig's night went into, written whole when the night is closed. What is charged is a view over it. */
export const up = `
CREATE TABLE time_remarks (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  during tstzrange NOT NULL CHECK (NOT isempty(during) AND NOT lower_inf(during) AND NOT upper_inf(during)),
  kind text NOT NULL CHECK (kind IN ('exposing', 'overhead', 'waiting', 'weather', 'fault', 'calibration', 'idle', 'visit')),
  words text NOT NULL,
  person_id uuid NOT NULL REFERENCES people,
  at timestamptz NOT NULL DEFAULT now(),
  withdrawn timestamptz,
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  CONSTRAINT one_remark_at_a_time EXCLUDE USING gist (rig_id WITH =, during WITH &&) WHERE (withdrawn IS NULL)
);

CREATE TABLE night_closings (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  night_date date NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  night tstzrange NOT NULL,
  charge_dark double precision NOT NULL CHECK (charge_dark BETWEEN 0 AND 10),
  charge_bright double precision NOT NULL CHECK (charge_bright BETWEEN 0 AND 10),
  closed timestamptz NOT NULL DEFAULT now(),
  closed_by uuid NOT NULL REFERENCES people,
  UNIQUE (rig_id, night_date, seq),
  UNIQUE (observatory_id, id, night),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, night_date) REFERENCES nights (observatory_id, night_date)
);
COMMENT ON TABLE night_closings IS 'A night that is closed anew gets a further row; the newest is in force.';

CREATE TABLE time_entries (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  observatory_id uuid NOT NULL,
  closing_id uuid NOT NULL,
  night tstzrange NOT NULL,
  during tstzrange NOT NULL CHECK (NOT isempty(during)),
  kind text NOT NULL CHECK (kind IN ('exposing', 'overhead', 'waiting', 'weather', 'fault', 'calibration', 'idle', 'visit')),
  sky_class text NOT NULL CHECK (sky_class IN ('dark', 'bright', 'day')),
  project_id uuid,
  member_id uuid REFERENCES people,
  exposure_id uuid,
  remark_id uuid,
  CONSTRAINT inside_its_night CHECK (during <@ night),
  CONSTRAINT no_minute_twice EXCLUDE USING gist (closing_id WITH =, during WITH &&),
  FOREIGN KEY (observatory_id, closing_id, night) REFERENCES night_closings (observatory_id, id, night),
  FOREIGN KEY (observatory_id, project_id) REFERENCES projects (observatory_id, id),
  FOREIGN KEY (observatory_id, exposure_id) REFERENCES exposures (observatory_id, id),
  FOREIGN KEY (observatory_id, remark_id) REFERENCES time_remarks (observatory_id, id)
);
CREATE INDEX time_entries_project ON time_entries (project_id) WHERE project_id IS NOT NULL;

-- Entries lie inside the night and never overlap, so their lengths add up to the night's only where no minute is missing.
CREATE FUNCTION check_closed_without_gaps() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT coalesce(sum(upper(during) - lower(during)), interval '0') FROM time_entries WHERE closing_id = NEW.id) <> upper(NEW.night) - lower(NEW.night) THEN
    RAISE EXCEPTION 'the account of this night has gaps' USING ERRCODE = 'check_violation', CONSTRAINT = 'closed_without_gaps';
  END IF;
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER closed_without_gaps AFTER INSERT ON night_closings DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_closed_without_gaps();

-- Exposing and overhead that somebody owns are charged by sky class; exposures that left the ledger, or that the site spoiled, are not.
CREATE VIEW time_account AS
SELECT t.observatory_id, c.rig_id, c.night_date, t.kind, t.sky_class, t.project_id, t.member_id, t.exposure_id, t.during, s.hours,
  CASE WHEN t.kind IN ('exposing', 'overhead') AND t.member_id IS NOT NULL AND (t.exposure_id IS NULL OR x.counts)
    THEN s.hours * CASE t.sky_class WHEN 'dark' THEN c.charge_dark ELSE c.charge_bright END ELSE 0 END AS charged_hours
FROM time_entries t
JOIN night_closings c ON c.id = t.closing_id
CROSS JOIN LATERAL (SELECT extract(epoch FROM upper(t.during) - lower(t.during))::float8 / 3600 AS hours) s
LEFT JOIN LATERAL (
  SELECT NOT (r.verdict = 'rejected' AND j.reason IN ('cloud', 'wind', 'fault')) AS counts
  FROM ledger_rows r LEFT JOIN verdicts j ON j.seq = r.verdict_seq WHERE r.exposure_id = t.exposure_id LIMIT 1) x ON true
WHERE NOT EXISTS (SELECT 1 FROM night_closings n WHERE n.rig_id = c.rig_id AND n.night_date = c.night_date AND n.seq > c.seq);
`;
