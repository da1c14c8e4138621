export const name = '2026-11-29-18-00-call-time';

/** Trouble found before dark costs no clear sky. */
export const up = `
ALTER TABLE observatories ADD preparation_min integer NOT NULL DEFAULT 45 CHECK (preparation_min BETWEEN 0 AND 480);
COMMENT ON COLUMN observatories.preparation_min IS 'Minutes of preparation before the first stay of a night.';
`;
