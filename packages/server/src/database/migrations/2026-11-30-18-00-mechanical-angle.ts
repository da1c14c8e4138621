export const name = '2026-11-30-18-00-mechanical-angle';

/** Where a motor turns the camera, each frame keeps the angle it was taken at: its flats must share it. */
export const up = `
ALTER TABLE exposures ADD mechanical_angle_deg float8 CHECK (mechanical_angle_deg >= 0 AND mechanical_angle_deg <= 360);
COMMENT ON COLUMN exposures.mechanical_angle_deg IS 'Of the camera on the telescope, as its rotator said; none where no motor turns it.';
`;
