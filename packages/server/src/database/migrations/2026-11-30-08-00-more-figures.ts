export const name = '2026-11-30-08-00-more-figures';

/** Stars that are drawn out are judged as well. */
export const up = `
ALTER TABLE measurements ADD elongation float8 CHECK (elongation >= 1);
ALTER TABLE earlier_measurements ADD elongation float8;
COMMENT ON COLUMN measurements.elongation IS 'Longer over shorter axis of stars, by the median.';
ALTER TABLE rule_revisions ADD elongation_sigmas float8 DEFAULT 3.5 CHECK (elongation_sigmas BETWEEN 1 AND 20);
ALTER TABLE rule_revisions ALTER elongation_sigmas DROP DEFAULT;

CREATE OR REPLACE FUNCTION keep_earlier_measurement() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  WITH earlier AS (DELETE FROM measurements WHERE exposure_id = NEW.exposure_id RETURNING *)
  INSERT INTO earlier_measurements (exposure_id, half_flux_radius_px, star_count, guiding_rms_arcsec, background_e, temperature_c, rate_predicted, rate_measured,
    after_move, airmass, transparency, sky_ratio, method, measured, elongation)
  SELECT exposure_id, half_flux_radius_px, star_count, guiding_rms_arcsec, background_e, temperature_c, rate_predicted, rate_measured,
    after_move, airmass, transparency, sky_ratio, method, measured, elongation FROM earlier;
  RETURN NEW;
END $$;
`;
