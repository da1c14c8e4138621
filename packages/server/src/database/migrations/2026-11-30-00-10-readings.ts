export const name = '2026-11-30-00-10-readings';

/** How the site stands while a night goes on, and the numbers by which a rig's night is carried out. */
export const up = `
CREATE TABLE run_readings (
  run_id uuid NOT NULL,
  observatory_id uuid NOT NULL,
  at timestamptz NOT NULL,
  safe boolean NOT NULL,
  temperature_c double precision,
  humidity_percent double precision,
  wind_m_per_s double precision,
  cloud_cover_percent double precision,
  sensor_c double precision,
  cooler_power_percent double precision,
  guiding_rms_arcsec double precision,
  altitude_deg double precision,
  azimuth_deg double precision,
  parked boolean,
  roof text CHECK (roof IN ('open', 'closed', 'moving')),
  PRIMARY KEY (run_id, at),
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id)
);
COMMENT ON TABLE run_readings IS 'What the devices of a night said of the site, about once a minute of its own time; null where none of them measures it.';

ALTER TABLE rigs ADD night_rules jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(night_rules) = 'object');
COMMENT ON COLUMN rigs.night_rules IS 'Numbers of a night by devices that differ from the usual ones; see NIGHT_RULES of the core.';
`;
