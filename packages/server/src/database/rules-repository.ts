// A part of queries: whether any judging rule of a project's rig is switched on.

/** For a query that has the project as `p`; rules that nobody has set are the defaults, which are on. */
export const HAS_RULES = `coalesce((SELECT num_nonnulls(star_size_sigmas, star_count_sigmas, guiding_sigmas, background_sigmas) > 0
  FROM rule_revisions x WHERE x.rig_id = p.rig_id ORDER BY seq DESC LIMIT 1), true)`;
