export const name = '2026-11-29-21-00-hand-orders';

/** What people say to a night while it goes on; and exposures that a plan made in the night has replaced. */
export const up = `
CREATE TABLE run_orders (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  run_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('hold', 'resume', 'leave', 'last')),
  ordered_by uuid NOT NULL REFERENCES people,
  ordered timestamptz NOT NULL DEFAULT clock_timestamp(),
  carried_out timestamptz,
  FOREIGN KEY (observatory_id, run_id) REFERENCES night_runs (observatory_id, id)
);
CREATE INDEX run_orders_of_run ON run_orders (run_id, ordered DESC);
COMMENT ON TABLE run_orders IS 'Said by hand to a night by devices; a hold stands until a later resume, a target to be left until the runner has left it.';

ALTER TABLE run_steps DROP CONSTRAINT run_steps_outcome_check,
  ADD CONSTRAINT run_steps_outcome_check CHECK (outcome IN ('done', 'lost', 'replaced')),
  DROP CONSTRAINT intent_before_outcome,
  ADD CONSTRAINT intent_before_outcome CHECK (outcome IS NULL OR outcome = 'replaced' OR intent IS NOT NULL);
COMMENT ON COLUMN run_steps.outcome IS 'replaced: never begun, because what was left of the night was planned again.';
`;
