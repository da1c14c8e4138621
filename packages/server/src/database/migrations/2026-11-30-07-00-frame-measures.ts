export const name = '2026-11-30-07-00-frame-measures';

/** What the pixels of a file say, kept with the way it was measured. */
export const up = `
CREATE TABLE frame_measures (
  exposure_id uuid PRIMARY KEY REFERENCES frames ON DELETE CASCADE,
  method integer NOT NULL,
  measured timestamptz NOT NULL DEFAULT clock_timestamp(),
  width_px integer NOT NULL CHECK (width_px > 0),
  height_px integer NOT NULL CHECK (height_px > 0),
  background float8 NOT NULL,
  noise float8 NOT NULL,
  star_count integer NOT NULL,
  half_flux_radius_px float8,
  elongation float8,
  histogram_to float8 NOT NULL,
  histogram_counts integer[] NOT NULL,
  saturated_share float8 NOT NULL,
  ra_deg float8 CHECK (ra_deg >= 0 AND ra_deg < 360),
  dec_deg float8 CHECK (dec_deg BETWEEN -90 AND 90),
  position_angle_deg float8,
  scale_arcsec float8,
  is_mirrored boolean,
  solved_stars integer,
  residual_arcsec float8,
  not_solved text,
  zero_point_mag float8,
  zero_point_scatter_mag float8,
  zero_point_stars integer,
  CONSTRAINT solved_whole_or_not CHECK (num_nulls(ra_deg, dec_deg, position_angle_deg, scale_arcsec, is_mirrored, solved_stars, residual_arcsec) IN (0, 7)),
  CONSTRAINT not_solved_says_why CHECK ((ra_deg IS NULL) = (not_solved IS NOT NULL)),
  CONSTRAINT zero_point_whole_or_not CHECK (num_nulls(zero_point_mag, zero_point_scatter_mag, zero_point_stars) IN (0, 3))
);
COMMENT ON TABLE frame_measures IS 'Derived from the file: measured again where the method is another, or where somebody asks for it.';
COMMENT ON COLUMN frame_measures.not_solved IS 'Why nobody can say where the picture points.';
`;
