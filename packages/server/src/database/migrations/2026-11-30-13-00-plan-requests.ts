export const name = '2026-11-30-13-00-plan-requests';

/** What a published plan was made from stays with it: what was left of each goal, weights, limits and times as they were then. */
export const up = `
CREATE TABLE plan_requests (
  observatory_id uuid NOT NULL,
  plan_id uuid PRIMARY KEY,
  request jsonb NOT NULL,
  FOREIGN KEY (observatory_id, plan_id) REFERENCES night_plans (observatory_id, id)
);
COMMENT ON TABLE plan_requests IS 'What a published plan was made from.';
`;
