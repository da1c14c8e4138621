export const name = '2026-11-28-21-50-projects-in-order';

/** Projects made in one transaction stand in the order they were made: plans, lists and choices are ordered by it, and must not change with a random id. */
export const up = `
ALTER TABLE projects ALTER COLUMN created SET DEFAULT clock_timestamp();
`;
