export const name = '2026-11-23-17-20-people';

/** Members who come, pause and go. */
export const up = `
ALTER TABLE people ADD COLUMN fits_observer text CHECK (fits_observer <> '');
COMMENT ON COLUMN people.fits_observer IS 'The name written into and looked for in the headers of frames.';
ALTER TABLE memberships ADD COLUMN suspended boolean NOT NULL DEFAULT false;

CREATE TABLE one_time_links (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  token_sha256 bytea NOT NULL UNIQUE,
  kind text NOT NULL CHECK (kind IN ('invite', 'reset')),
  person_id uuid REFERENCES people,
  invited jsonb,
  made_by uuid REFERENCES people,
  made timestamptz NOT NULL DEFAULT now(),
  expires timestamptz NOT NULL,
  used timestamptz,
  CONSTRAINT invites_name_somebody_new CHECK ((kind = 'invite') = (invited IS NOT NULL) AND (kind = 'reset') = (person_id IS NOT NULL))
);
CREATE INDEX one_time_links_open ON one_time_links (observatory_id) WHERE used IS NULL;

CREATE FUNCTION check_coordinator_remains() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM memberships WHERE observatory_id = OLD.observatory_id AND during @> now())
    AND NOT EXISTS (SELECT 1 FROM memberships WHERE observatory_id = OLD.observatory_id AND during @> now() AND role = 'coordinator' AND NOT suspended) THEN
    RAISE EXCEPTION 'a coordinator must remain' USING ERRCODE = 'check_violation', CONSTRAINT = 'a_coordinator_remains';
  END IF;
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER a_coordinator_remains AFTER UPDATE OR DELETE ON memberships DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_coordinator_remains();
`;
