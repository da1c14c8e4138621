export const name = '2026-11-23-21-20-calendar-feeds';

/** A member's private calendar address: only its hash is kept; making another one ends the one before. */
export const up = `
CREATE TABLE calendar_feeds (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  token_sha256 bytea NOT NULL UNIQUE,
  made timestamptz NOT NULL DEFAULT now(),
  revoked timestamptz
);
CREATE UNIQUE INDEX one_calendar_feed_a_member ON calendar_feeds (observatory_id, person_id) WHERE revoked IS NULL;
`;
