// A night's start and end, as they were when something first happened in it.
import type { ObservingNight } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

/** Written once; a later change of the zone or of its clocks leaves it as it was. */
export const recordNight = (
  { models }: Queries,
  observatoryId: string,
  { nightDate, startUtcMs, endUtcMs }: ObservingNight,
): Promise<unknown> =>
  models.Night.bulkCreate(
    [{ observatoryId, nightDate: String(nightDate), startUtc: new Date(startUtcMs), endUtc: new Date(endUtcMs) }],
    { ignoreDuplicates: true },
  );
