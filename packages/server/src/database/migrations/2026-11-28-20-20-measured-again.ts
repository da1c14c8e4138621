export const name = '2026-11-28-20-20-measured-again';

/** Frames can be measured again: the newest figures stand in measurements, those before them beside it. Nothing is overwritten by hand. */
export const up = `
ALTER TABLE measurements ADD COLUMN method text NOT NULL DEFAULT 'runner' CHECK (method <> ''), ADD COLUMN measured timestamptz NOT NULL DEFAULT now();
UPDATE measurements m SET measured = e.recorded, method = CASE WHEN e.run_step_id IS NULL AND m.half_flux_radius_px IS NULL THEN 'predicted' ELSE 'runner' END
FROM exposures e WHERE e.id = m.exposure_id;
COMMENT ON COLUMN measurements.method IS 'What found the figures, with its version where it has one.';

CREATE TABLE earlier_measurements (LIKE measurements INCLUDING CONSTRAINTS, seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, FOREIGN KEY (exposure_id) REFERENCES exposures);
CREATE INDEX earlier_measurements_exposure ON earlier_measurements (exposure_id, seq DESC);
COMMENT ON TABLE earlier_measurements IS 'Figures of exposures that have been measured again since, by method and time.';

CREATE FUNCTION keep_earlier_measurement() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  WITH earlier AS (DELETE FROM measurements WHERE exposure_id = NEW.exposure_id RETURNING *)
  INSERT INTO earlier_measurements (exposure_id, half_flux_radius_px, star_count, guiding_rms_arcsec, background_e, temperature_c, rate_predicted, rate_measured,
    after_move, airmass, transparency, sky_ratio, method, measured)
  SELECT exposure_id, half_flux_radius_px, star_count, guiding_rms_arcsec, background_e, temperature_c, rate_predicted, rate_measured,
    after_move, airmass, transparency, sky_ratio, method, measured FROM earlier;
  RETURN NEW;
END $$;
CREATE TRIGGER keep_earlier_measurement BEFORE INSERT ON measurements FOR EACH ROW EXECUTE FUNCTION keep_earlier_measurement();
`;
