export const name = '2026-11-30-03-30-frame-copies';

/** Frames come after their reports: a runner at the site copies them behind everything else. */
export const up = `
ALTER TABLE frames ADD copied timestamptz;
UPDATE frames SET copied = now();
COMMENT ON COLUMN frames.copied IS 'When its file lay whole under this folder, its checksum right; null while it is still at the site.';
`;
