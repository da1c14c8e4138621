export const name = '2026-11-29-20-00-simulated';

/** Exposures that no real sky fell on are known as such for good. */
export const up = `
ALTER TABLE exposures ADD simulated boolean NOT NULL DEFAULT false;
UPDATE exposures SET simulated = true WHERE run_step_id IS NOT NULL;
COMMENT ON COLUMN exposures.simulated IS 'Taken by the simulated observatory; never credited where an observatory has rigs with real devices.';
`;
