export const name = '2026-11-29-23-30-messages';

/** What people are notified of leaves the application: by e-mail and webhook, each message once. */
export const up = `
ALTER TABLE notices ADD COLUMN kind text NOT NULL DEFAULT 'news' CHECK (kind IN ('news', 'night', 'danger'));

CREATE TABLE message_channels (
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  email text NOT NULL DEFAULT 'none' CHECK (email IN ('none', 'danger', 'all')),
  webhook text NOT NULL DEFAULT 'none' CHECK (webhook IN ('none', 'danger', 'all')),
  webhook_url text,
  quiet_from_min integer CHECK (quiet_from_min BETWEEN 0 AND 1439),
  quiet_to_min integer CHECK (quiet_to_min BETWEEN 0 AND 1439),
  PRIMARY KEY (observatory_id, person_id),
  CONSTRAINT quiet_has_both_ends CHECK ((quiet_from_min IS NULL) = (quiet_to_min IS NULL) AND quiet_from_min IS DISTINCT FROM quiet_to_min OR quiet_from_min IS NULL),
  CONSTRAINT webhook_has_an_address CHECK (webhook = 'none' OR webhook_url IS NOT NULL)
);
COMMENT ON COLUMN message_channels.quiet_from_min IS 'Minutes after midnight in the person''s own time zone; danger is sent in quiet hours as well.';

CREATE TABLE messages (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid NOT NULL REFERENCES people,
  notice_id bigint NOT NULL REFERENCES notices,
  channel text NOT NULL CHECK (channel IN ('email', 'webhook')),
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'sending', 'sent', 'failed')),
  due timestamptz NOT NULL DEFAULT now(),
  tries integer NOT NULL DEFAULT 0,
  taken timestamptz,
  sent timestamptz,
  problem text,
  UNIQUE (notice_id, channel),
  CONSTRAINT sent_when CHECK ((sent IS NOT NULL) = (state = 'sent'))
);
CREATE INDEX messages_due ON messages (due) WHERE state IN ('waiting', 'sending');
CREATE INDEX messages_person ON messages (person_id, due DESC);
`;
