export const name = '2026-11-28-19-40-filter-aliases';

/** What headers call a filter, as a coordinator has taught it. */
export const up = `
CREATE TABLE filter_aliases (
  observatory_id uuid NOT NULL REFERENCES observatories,
  name text NOT NULL CHECK (name <> ''),
  filter_id uuid NOT NULL,
  taught_by uuid NOT NULL REFERENCES people,
  taught timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (observatory_id, name),
  FOREIGN KEY (observatory_id, filter_id) REFERENCES filters (observatory_id, id)
);
`;
