export const name = '2026-11-24-04-00-composing';

/** What of a rig composing asks for, and compositions kept with their targets. */
export const up = `
ALTER TABLE rig_revisions
  ADD COLUMN drawtube_mm double precision CHECK (drawtube_mm > 0),
  ADD COLUMN corrected_circle_mm double precision CHECK (corrected_circle_mm > 0),
  ADD COLUMN mirrors text NOT NULL DEFAULT 'even' CHECK (mirrors IN ('even', 'odd'));
COMMENT ON COLUMN rig_revisions.drawtube_mm IS 'Outer diameter of the tube that turns with the camera.';
COMMENT ON COLUMN rig_revisions.corrected_circle_mm IS 'Diameter of the circle on the sensor within which stars are sharp.';
COMMENT ON COLUMN rig_revisions.mirrors IS 'Whether the light meets an even or odd number of mirrors: odd ones turn the sky the other way round.';
ALTER TABLE targets ADD COLUMN composition text CHECK (length(composition) BETWEEN 1 AND 4000);
COMMENT ON COLUMN targets.composition IS 'How it was last framed, as the framing page writes it into its address.';
`;
