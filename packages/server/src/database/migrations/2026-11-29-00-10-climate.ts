export const name = '2026-11-29-00-10-climate';

/** What a season reckons with: how often nights are clear, month by month, how long weather stays, and nights on which nothing is exposed. */
export const up = `
ALTER TABLE observatories
  ADD COLUMN weather_persistence double precision NOT NULL DEFAULT 0.3 CHECK (weather_persistence >= 0 AND weather_persistence <= 0.9),
  ADD COLUMN climate_source text NOT NULL DEFAULT '' CHECK (length(climate_source) <= 300);
COMMENT ON COLUMN observatories.weather_persistence IS 'Correlation of a night being clear with the next one being clear.';

CREATE TABLE climate_months (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories (id) ON DELETE CASCADE,
  month integer NOT NULL CHECK (month BETWEEN 1 AND 12),
  clear_odds double precision NOT NULL DEFAULT 0.5 CHECK (clear_odds >= 0 AND clear_odds <= 1),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (observatory_id, month)
);
COMMENT ON TABLE climate_months IS 'Odds that a night of a calendar month is clear.';

CREATE FUNCTION twelve_months() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO climate_months (observatory_id, month) SELECT NEW.id, generate_series(1, 12);
  RETURN NEW;
END $$;
CREATE TRIGGER twelve_months AFTER INSERT ON observatories FOR EACH ROW EXECUTE FUNCTION twelve_months();
INSERT INTO climate_months (observatory_id, month) SELECT o.id, m FROM observatories o, generate_series(1, 12) m;

CREATE TABLE closures (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories (id) ON DELETE CASCADE,
  rig_id uuid,
  first_night date NOT NULL,
  last_night date NOT NULL,
  reason text NOT NULL CHECK (length(reason) BETWEEN 1 AND 200),
  person_id uuid NOT NULL REFERENCES people,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  withdrawn timestamptz,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  CHECK (first_night <= last_night),
  CHECK (last_night < first_night + 400)
);
CREATE INDEX closures_nights ON closures (observatory_id, last_night) WHERE withdrawn IS NULL;
COMMENT ON TABLE closures IS 'Nights on which the observatory, or one rig, is closed.';
`;
