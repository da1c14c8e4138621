export const name = '2026-11-24-00-10-framing';

/** Compositions framed anew, a shelf of targets with themes, and orbits of targets that move. */
export const up = `
ALTER TABLE panels ADD COLUMN dropped boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN panels.dropped IS 'A composition framed anew has no place for it; its exposures stay in the ledger.';

CREATE VIEW framed_panels AS
SELECT l.id, l.observatory_id, l.project_id, l.position, l.name, w.id AS pointing_id, w.ra_deg, w.dec_deg, w.position_angle_deg
FROM panels l JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = l.id ORDER BY seq DESC LIMIT 1) w ON true
WHERE NOT l.dropped;
COMMENT ON VIEW framed_panels IS 'Panels in use, each with the pointing in force.';

ALTER TABLE targets ADD COLUMN shelved boolean NOT NULL DEFAULT false, ADD COLUMN size_arcmin double precision CHECK (size_arcmin > 0);
CREATE UNIQUE INDEX shelved_once ON targets (observatory_id, lower(name)) WHERE shelved;
CREATE TABLE orbits (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  target_id uuid NOT NULL,
  seq integer NOT NULL CHECK (seq > 0),
  elements jsonb NOT NULL,
  line text NOT NULL CHECK (line <> ''),
  person_id uuid NOT NULL REFERENCES people,
  created timestamptz NOT NULL DEFAULT now(),
  UNIQUE (target_id, seq),
  FOREIGN KEY (observatory_id, target_id) REFERENCES targets (observatory_id, id)
);
CREATE TABLE themes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories,
  name text NOT NULL CHECK (name <> ''),
  take text NOT NULL CHECK (take IN ('any', 'all')),
  UNIQUE (observatory_id, id),
  UNIQUE (observatory_id, name)
);
CREATE TABLE theme_targets (
  observatory_id uuid NOT NULL,
  theme_id uuid NOT NULL,
  target_id uuid NOT NULL,
  PRIMARY KEY (theme_id, target_id),
  FOREIGN KEY (observatory_id, theme_id) REFERENCES themes (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, target_id) REFERENCES targets (observatory_id, id)
);
`;
