export const name = '2026-11-30-10-00-starlight-rule';

/** How much starlight arrives is judged as well. */
export const up = `
ALTER TABLE rule_revisions ADD starlight_sigmas float8 DEFAULT 3.5 CHECK (starlight_sigmas BETWEEN 1 AND 20);
ALTER TABLE rule_revisions ALTER starlight_sigmas DROP DEFAULT;
`;
