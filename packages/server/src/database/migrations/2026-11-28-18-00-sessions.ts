export const name = '2026-11-28-18-00-sessions';

/** Sessions by the hash of their secret, with what their owner needs to recognise them; whoever follows live events learns
 * at once of one that ended. Wrong passwords are counted by account and address together. Everybody signs in again. */
export const up = `
DROP TABLE sessions;
CREATE TABLE sessions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  token_sha256 bytea NOT NULL UNIQUE,
  person_id uuid NOT NULL REFERENCES people,
  begun timestamptz NOT NULL DEFAULT now(),
  seen timestamptz NOT NULL DEFAULT now(),
  expires timestamptz NOT NULL,
  agent text NOT NULL,
  address text NOT NULL
);
CREATE INDEX sessions_person ON sessions (person_id);
CREATE INDEX sessions_expires ON sessions (expires);
COMMENT ON TABLE sessions IS 'A row is inserted by signing in alone; whatever else writes finds it or leaves it ended.';

CREATE FUNCTION announce_ended_session() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('meridiem_sessions', OLD.person_id::text);
  RETURN NULL;
END $$;
CREATE TRIGGER sessions_ended AFTER DELETE ON sessions FOR EACH ROW EXECUTE FUNCTION announce_ended_session();

CREATE TABLE sign_in_failures (
  account text NOT NULL,
  address text NOT NULL,
  failures integer NOT NULL CHECK (failures > 0),
  last timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (account, address)
);
CREATE INDEX sign_in_failures_last ON sign_in_failures (last);
`;
