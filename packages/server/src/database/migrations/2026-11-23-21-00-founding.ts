export const name = '2026-11-23-21-00-founding';

/** The link by which the first coordinator founds the observatory: made on an empty database, it belongs to none yet. */
export const up = `
ALTER TABLE one_time_links ALTER COLUMN observatory_id DROP NOT NULL, DROP CONSTRAINT one_time_links_kind_check, DROP CONSTRAINT invites_name_somebody_new;
ALTER TABLE one_time_links ADD CONSTRAINT one_time_links_kind_check CHECK (kind IN ('found', 'invite', 'reset')),
  ADD CONSTRAINT links_name_whom_they_are_for CHECK (
    CASE kind WHEN 'found' THEN observatory_id IS NULL AND invited IS NULL AND person_id IS NULL
      WHEN 'invite' THEN observatory_id IS NOT NULL AND invited IS NOT NULL AND person_id IS NULL
      ELSE observatory_id IS NOT NULL AND invited IS NULL AND person_id IS NOT NULL END);
`;
