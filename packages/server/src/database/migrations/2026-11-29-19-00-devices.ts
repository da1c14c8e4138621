export const name = '2026-11-29-19-00-devices';

/** A rig's devices, and every step of a night that they carry out. */
export const up = `
ALTER TABLE rigs
  ADD devices text NOT NULL DEFAULT 'none' CHECK (devices IN ('none', 'simulated', 'address')),
  ADD devices_url text CHECK (length(devices_url) <= 300),
  ADD CONSTRAINT devices_at_an_address CHECK ((devices = 'address') = (devices_url IS NOT NULL));
COMMENT ON COLUMN rigs.devices IS 'none: exposures are asked of the simulator as wholes; simulated: devices of the simulated observatory; address: devices that answer there.';

ALTER TABLE night_runs ADD ended_as text CHECK (ended_as IN ('finished', 'stopped', 'closed early', 'not begun', 'not closed'));
COMMENT ON COLUMN night_runs.ended_as IS 'How a night by devices ended, by the true state of the site.';

CREATE TABLE run_actions (
  id uuid PRIMARY KEY,
  observatory_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  kind text NOT NULL,
  words text NOT NULL,
  attempt integer NOT NULL CHECK (attempt > 0),
  started timestamptz NOT NULL,
  ended timestamptz,
  outcome text CHECK (outcome IN ('done', 'failed', 'interrupted')),
  remark text,
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id),
  CONSTRAINT ended_with_an_outcome CHECK ((ended IS NULL) = (outcome IS NULL))
);
CREATE INDEX run_actions_of_run ON run_actions (run_id, started DESC, seq DESC);
COMMENT ON TABLE run_actions IS 'Steps of a night by devices: the row is written before the command, its outcome after. Times are the observatory’s.';
`;
