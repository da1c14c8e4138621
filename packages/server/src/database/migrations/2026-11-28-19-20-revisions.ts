export const name = '2026-11-28-19-20-revisions';

/** The newest event of an observatory is looked at with each call. */
export const up = `CREATE INDEX events_newest ON events (observatory_id, seq DESC);`;
