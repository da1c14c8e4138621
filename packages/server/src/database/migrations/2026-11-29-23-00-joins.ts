export const name = '2026-11-29-23-00-joins';

/** Two projects that share exposures: offered by one, accepted by the other, ended by either. Credit that it brought stays. */
export const up = `
CREATE TABLE project_joins (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  from_id uuid NOT NULL,
  to_id uuid NOT NULL,
  from_share double precision NOT NULL CHECK (from_share > 0 AND from_share < 1),
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'accepted', 'declined', 'withdrawn', 'ended')),
  offered_by uuid NOT NULL REFERENCES people,
  decided_by uuid REFERENCES people,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  since timestamptz,
  until timestamptz,
  FOREIGN KEY (observatory_id, from_id) REFERENCES projects (observatory_id, id),
  FOREIGN KEY (observatory_id, to_id) REFERENCES projects (observatory_id, id),
  CONSTRAINT two_projects CHECK (from_id <> to_id),
  CONSTRAINT shared_since CHECK ((since IS NOT NULL) = (state IN ('accepted', 'ended'))),
  CONSTRAINT shared_until CHECK ((until IS NOT NULL) = (state = 'ended'))
);
CREATE UNIQUE INDEX joins_in_force_from ON project_joins (from_id) WHERE state = 'accepted';
CREATE UNIQUE INDEX joins_in_force_to ON project_joins (to_id) WHERE state = 'accepted';
CREATE UNIQUE INDEX joins_once_open ON project_joins (least(from_id, to_id), greatest(from_id, to_id)) WHERE state IN ('open', 'accepted');
COMMENT ON COLUMN project_joins.from_share IS 'What of a shared exposure the offering project is charged; the other is charged the rest.';

ALTER TABLE attributions ADD COLUMN charge_share double precision CHECK (charge_share > 0 AND charge_share < 1);
CREATE INDEX attributions_shared ON attributions (exposure_id) WHERE charge_share IS NOT NULL AND withdrawn IS NULL;
COMMENT ON COLUMN attributions.charge_share IS 'Of an exposure that two joined projects wanted: what this one is charged. Null: the exposure is charged whole to one.';
`;
