export const name = '2026-12-01-08-00-frame-trails';

/** By what a picture's place is known. Lines that satellites and aircraft drew across a picture; what was measured before is measured again by the new method. */
export const up = `
ALTER TABLE frame_measures ADD COLUMN trails jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(trails) = 'array');
ALTER TABLE frame_measures ALTER COLUMN trails DROP DEFAULT;
ALTER TABLE frame_measures ADD COLUMN solved_by text CHECK (solved_by IN ('stars', 'header', 'solver'));
UPDATE frame_measures SET solved_by = 'stars' WHERE ra_deg IS NOT NULL;
ALTER TABLE frame_measures ADD CHECK ((solved_by IS NULL) = (ra_deg IS NULL));
COMMENT ON COLUMN frame_measures.trails IS 'From where to where in pixels, and how bright in standard deviations of as much empty sky.';
`;
