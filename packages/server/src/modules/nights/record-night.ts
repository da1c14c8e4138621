// A night's start and end, as they were when something first happened in it.
import type { ObservingNight } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

/** Written once; a later change of the zone or of its clocks leaves it as it was. */
export const recordNight = (
  queries: Queries,
  observatoryId: string,
  { nightDate, startUtcMs, endUtcMs }: ObservingNight,
): Promise<unknown> =>
  queries.rows(
    'INSERT INTO nights (observatory_id, night_date, start_utc, end_utc) VALUES ($1, $2, $3, $4) ON CONFLICT (observatory_id, night_date) DO NOTHING',
    [observatoryId, nightDate, new Date(startUtcMs).toISOString(), new Date(endUtcMs).toISOString()],
  );
