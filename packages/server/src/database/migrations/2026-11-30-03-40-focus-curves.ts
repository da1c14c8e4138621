export const name = '2026-11-30-03-40-focus-curves';

/** What a focus was found by, kept with its date. */
export const up = `
ALTER TABLE run_actions ADD curve jsonb CHECK (jsonb_typeof(curve) = 'object');
COMMENT ON COLUMN run_actions.curve IS 'Of a focus: star sizes by place, and the best place where it was found.';
`;
