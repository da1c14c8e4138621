export const name = '2026-11-28-20-00-project-owners';

/** Who owned a project when: hours are charged to the owner of the time, however late the night is closed. */
export const up = `
CREATE TABLE project_owners (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
  person_id uuid NOT NULL REFERENCES people,
  during tstzrange NOT NULL CHECK (NOT isempty(during)),
  EXCLUDE USING gist (project_id WITH =, during WITH &&)
);
COMMENT ON TABLE project_owners IS 'Owners of projects by time; the first holds from ever on, since exposures older than the project may be credited to it.';

INSERT INTO project_owners (project_id, person_id, during) SELECT id, owner_id, tstzrange(NULL, NULL) FROM projects;

CREATE FUNCTION note_project_owner() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  moment timestamptz := clock_timestamp();
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO project_owners (project_id, person_id, during) VALUES (NEW.id, NEW.owner_id, tstzrange(NULL, NULL));
  ELSIF NEW.owner_id <> OLD.owner_id THEN
    UPDATE project_owners SET during = tstzrange(lower(during), moment) WHERE project_id = NEW.id AND upper_inf(during);
    INSERT INTO project_owners (project_id, person_id, during) VALUES (NEW.id, NEW.owner_id, tstzrange(moment, NULL));
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER note_project_owner AFTER INSERT OR UPDATE OF owner_id ON projects FOR EACH ROW EXECUTE FUNCTION note_project_owner();
`;
