export const name = '2026-11-30-03-10-leases';

/** How long a night is its runner's alone: of a runner that stands at the site, to the end of closing. */
export const up = `
ALTER TABLE night_runs
  ADD lease_s integer NOT NULL DEFAULT 20 CHECK (lease_s > 0),
  ADD site text CHECK (char_length(site) BETWEEN 1 AND 80);
COMMENT ON COLUMN night_runs.lease_s IS 'Seconds by which each word of the holder renews the lease.';
COMMENT ON COLUMN night_runs.site IS 'Where the holder stands, by a name that outlives its process; null where it stands elsewhere.';
`;
