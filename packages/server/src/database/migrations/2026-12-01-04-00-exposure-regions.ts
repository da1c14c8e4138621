export const name = '2026-12-01-04-00-exposure-regions';

/** Calibration must be read from the same part of the sensor as its lights. */
export const up = `
ALTER TABLE exposures ADD region_width_px integer CHECK (region_width_px > 0), ADD region_height_px integer CHECK (region_height_px > 0),
  ADD CONSTRAINT region_has_both_sides CHECK ((region_width_px IS NULL) = (region_height_px IS NULL));
COMMENT ON COLUMN exposures.region_width_px IS 'Of the middle of the sensor that was read, in unbinned pixels; none where all of it was.';
UPDATE exposures e SET region_width_px = v.region_width_px, region_height_px = v.region_height_px
  FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id
  WHERE s.id = e.run_step_id AND v.region_width_px IS NOT NULL;
`;
