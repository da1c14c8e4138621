export const name = '2026-11-28-22-40-pixels';

/** What names a frame however its file is written, beside the hash of its data unit. It is learned with the hash of the same data alone: whoever brings other bytes proves nothing of these. */
export const up = `
ALTER TABLE exposures ADD COLUMN pixels_sha256 bytea CHECK (octet_length(pixels_sha256) = 32);
ALTER TABLE import_files ADD COLUMN pixels_sha256 bytea CHECK (octet_length(pixels_sha256) = 32);
CREATE INDEX exposures_pixels ON exposures (pixels_sha256) WHERE pixels_sha256 IS NOT NULL;
COMMENT ON COLUMN exposures.pixels_sha256 IS 'SHA-256 of the pixels, the same however losslessly the file is written.';

DROP FUNCTION fill_exposure_identity(uuid, bytea, text);
CREATE FUNCTION fill_exposure_identity(exposure uuid, sha bytea, pixels bytea) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  UPDATE exposures SET data_sha256 = coalesce(data_sha256, sha), pixels_sha256 = coalesce(pixels_sha256, pixels)
  WHERE id = exposure AND sha IS NOT NULL AND (data_sha256 IS NULL OR data_sha256 = sha) AND (data_sha256 IS NULL OR pixels_sha256 IS NULL)
$$;
`;
