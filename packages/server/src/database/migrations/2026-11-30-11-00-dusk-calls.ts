export const name = '2026-11-30-11-00-dusk-calls';

/** What the forecast says of a night at its cut-off hour is sent once, however many servers look. */
export const up = `
CREATE TABLE dusk_calls (
  observatory_id uuid NOT NULL REFERENCES observatories,
  night_date date NOT NULL,
  call text NOT NULL CHECK (call IN ('go', 'wait', 'no_go')),
  hours_clear float8 NOT NULL CHECK (hours_clear >= 0),
  sent timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (observatory_id, night_date)
);
COMMENT ON TABLE dusk_calls IS 'Go, wait or no-go as it was sent to the coordinators at the cut-off hour of a night.';
`;
