export const name = '2026-11-28-19-00-jobs';

/** Long computations as rows: whoever asks finds the same one, any worker takes it, another takes it over. */
export const up = `
CREATE TABLE jobs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  person_id uuid REFERENCES people,
  kind text NOT NULL CHECK (kind <> ''),
  request_hash text NOT NULL,
  request jsonb NOT NULL,
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'stopped')),
  progress double precision NOT NULL DEFAULT 0 CHECK (progress BETWEEN 0 AND 1),
  attempt integer NOT NULL DEFAULT 0 CHECK (attempt >= 0),
  holder text,
  heartbeat timestamptz,
  failure text,
  created timestamptz NOT NULL DEFAULT now(),
  finished timestamptz,
  CONSTRAINT running_has_a_holder CHECK (state <> 'running' OR (holder IS NOT NULL AND heartbeat IS NOT NULL)),
  CONSTRAINT ended_has_a_time CHECK ((state IN ('done', 'failed', 'stopped')) = (finished IS NOT NULL))
);
CREATE UNIQUE INDEX jobs_one_under_way ON jobs (observatory_id, kind, request_hash) WHERE state IN ('waiting', 'running');
CREATE INDEX jobs_running ON jobs (heartbeat) WHERE state = 'running';
CREATE INDEX jobs_finished ON jobs (finished);

CREATE TABLE job_results (
  observatory_id uuid NOT NULL REFERENCES observatories,
  kind text NOT NULL,
  request_hash text NOT NULL,
  result jsonb NOT NULL,
  made timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (observatory_id, kind, request_hash)
);
CREATE INDEX job_results_made ON job_results (made);
COMMENT ON TABLE job_results IS 'A result belongs to its request, whoever asked first.';

CREATE FUNCTION announce_job() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify(CASE WHEN NEW.state = 'stopped' THEN 'meridiem_jobs_stopped' ELSE 'meridiem_jobs' END, NEW.id::text);
  RETURN NULL;
END $$;
CREATE TRIGGER jobs_asked AFTER INSERT ON jobs FOR EACH ROW EXECUTE FUNCTION announce_job();
CREATE TRIGGER jobs_waiting_again AFTER UPDATE OF state ON jobs FOR EACH ROW WHEN (NEW.state IN ('waiting', 'stopped') AND NEW.state <> OLD.state) EXECUTE FUNCTION announce_job();
`;
