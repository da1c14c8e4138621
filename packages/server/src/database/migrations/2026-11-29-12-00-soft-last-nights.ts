export const name = '2026-11-29-12-00-soft-last-nights';

/** A last night may be firm, or what comes after it may count less night by night. */
export const up = `
ALTER TABLE projects ADD COLUMN decay_nights integer CHECK (decay_nights BETWEEN 1 AND 90);
COMMENT ON COLUMN projects.decay_nights IS 'Nights after the last one until work counts nothing any more; null for nothing at once.';
`;
