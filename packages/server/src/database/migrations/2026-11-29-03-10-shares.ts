export const name = '2026-11-29-03-10-shares';

/** Members' shares of a rig's open hours, what they were entitled to night by night, and hours that they gave each other. */
export const up = `
CREATE TABLE share_periods (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL REFERENCES observatories (id) ON DELETE CASCADE,
  first_night date NOT NULL,
  last_night date,
  person_id uuid NOT NULL REFERENCES people,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  withdrawn timestamptz,
  UNIQUE (observatory_id, id),
  CHECK (last_night IS NULL OR first_night <= last_night),
  CONSTRAINT one_period_at_a_time EXCLUDE USING gist (observatory_id WITH =, daterange(first_night, last_night, '[]') WITH &&) WHERE (withdrawn IS NULL)
);
COMMENT ON TABLE share_periods IS 'Nights for which shares were agreed; outside of them all members have equal shares.';

CREATE TABLE allotments (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  period_id uuid NOT NULL,
  person_id uuid NOT NULL REFERENCES people,
  rig_id uuid,
  sky_class text CHECK (sky_class IN ('dark', 'bright')),
  share double precision NOT NULL CHECK (share >= 0 AND share <= 1),
  UNIQUE NULLS NOT DISTINCT (period_id, person_id, rig_id, sky_class),
  FOREIGN KEY (observatory_id, period_id) REFERENCES share_periods (observatory_id, id) ON DELETE CASCADE,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id)
);
COMMENT ON TABLE allotments IS 'A member''s share in a period: of one rig or of all, of one sky or of both; what names more goes before what names less.';

CREATE TABLE entitlements (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  closing_id uuid NOT NULL REFERENCES night_closings (id),
  person_id uuid NOT NULL REFERENCES people,
  sky_class text NOT NULL CHECK (sky_class IN ('dark', 'bright')),
  share double precision NOT NULL CHECK (share >= 0),
  hours double precision NOT NULL CHECK (hours >= 0),
  UNIQUE (closing_id, person_id, sky_class)
);
COMMENT ON TABLE entitlements IS 'Hours that a closed night entitled a member to, weighted as hours are charged; written with the closing.';

CREATE TABLE share_swaps (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  from_id uuid NOT NULL REFERENCES people,
  to_id uuid NOT NULL REFERENCES people,
  gives_sky text NOT NULL CHECK (gives_sky IN ('dark', 'bright')),
  gives_hours double precision NOT NULL CHECK (gives_hours > 0 AND gives_hours <= 1000),
  gets_sky text NOT NULL CHECK (gets_sky IN ('dark', 'bright')),
  gets_hours double precision NOT NULL CHECK (gets_hours > 0 AND gets_hours <= 1000),
  words text NOT NULL DEFAULT '' CHECK (length(words) <= 300),
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'accepted', 'declined', 'withdrawn')),
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  decided timestamptz,
  UNIQUE (observatory_id, id),
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  CHECK (from_id <> to_id),
  CHECK (gives_sky <> gets_sky),
  CHECK ((decided IS NULL) = (state = 'open'))
);

CREATE TABLE share_gifts (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  observatory_id uuid NOT NULL,
  rig_id uuid NOT NULL,
  from_id uuid NOT NULL REFERENCES people,
  to_id uuid NOT NULL REFERENCES people,
  sky_class text NOT NULL CHECK (sky_class IN ('dark', 'bright')),
  hours double precision NOT NULL CHECK (hours > 0 AND hours <= 1000),
  night_date date NOT NULL,
  words text NOT NULL DEFAULT '' CHECK (length(words) <= 300),
  swap_id uuid,
  created timestamptz NOT NULL DEFAULT clock_timestamp(),
  withdrawn timestamptz,
  FOREIGN KEY (observatory_id, rig_id) REFERENCES rigs (observatory_id, id),
  FOREIGN KEY (observatory_id, swap_id) REFERENCES share_swaps (observatory_id, id),
  CHECK (from_id <> to_id)
);
COMMENT ON TABLE share_gifts IS 'Entitled hours that one member gave another; a swap that was accepted is two of them.';
CREATE INDEX share_gifts_nights ON share_gifts (observatory_id, night_date) WHERE withdrawn IS NULL;
`;
