export const name = '2026-11-30-07-30-learned-times';

/** A rig whose times are set anew after each night by devices. */
export const up = `
ALTER TABLE rigs ADD learns_times boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN rigs.learns_times IS 'Whether a night by devices begins a revision of the rig with the times that its steps have taken.';
`;
