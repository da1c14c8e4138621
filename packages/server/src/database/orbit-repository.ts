// A part of queries: the orbit of what a project points at.
/** The newest orbit of a project's target, for a query that has the project as `alias`. */
export const orbitOf = (alias: string): string =>
  `(SELECT o.elements FROM orbits o WHERE o.target_id = ${alias}.target_id ORDER BY o.seq DESC LIMIT 1)`;
