export const name = '2026-11-28-18-20-safe-ground';

/** New goals start from nothing, calls done once stay done once, and history names no source of an import. */
export const up = `
CREATE OR REPLACE FUNCTION totals_after_goal() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  -- Nothing can count for a goal before it is there: no exposure is looked at.
  INSERT INTO goal_totals (goal_id, accepted, undecided, rejected, accepted_s, undecided_s, rejected_s, effective_s, exposure_count)
  SELECT id, 0, 0, 0, 0, 0, 0, 0, 0 FROM added;
  RETURN NULL;
END $$;

CREATE TABLE done_calls (
  person_id uuid NOT NULL REFERENCES people ON DELETE CASCADE,
  call_id uuid NOT NULL,
  part integer NOT NULL CHECK (part >= 0),
  operation text NOT NULL,
  result jsonb,
  at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (person_id, call_id, part)
);
CREATE INDEX done_calls_at ON done_calls (at);
COMMENT ON TABLE done_calls IS 'What a call with an id of its caller''s has done: repeated after a cut connection it is answered from here.';

UPDATE changes SET words = regexp_replace(words, '( exposures?) from .*$', '\\1') WHERE entity = 'imports';
`;
