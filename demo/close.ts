// Closes the demo's past nights through the application's own service: cloudy ones are said to be so, the newest wait for a person.
import { sunPassage } from '@meridiem/core';
import { DateTime } from 'luxon';
import { createClock } from '../packages/server/src/clock.ts';
import type { Database } from '../packages/server/src/database/connection.ts';
import { createChangeService } from '../packages/server/src/modules/changes/index.ts';
import { createObservatoryService } from '../packages/server/src/modules/observatory/index.ts';
import { createTimeAccountService } from '../packages/server/src/modules/time-account/index.ts';
import type { LoadedDemo } from './load.ts';
import { STATION } from './station.ts';
import type { Story } from './story.ts';

/** Nights that the coordinator of the demo has not closed yet. */
const LEFT_OPEN = 2;
/** Observing would have begun and ended at this depth of the sun. */
const DUSK_DEG = -12;

export async function closeHistory(database: Database, story: Story, { viewers, rigIds }: LoadedDemo): Promise<void> {
  const past = story.nights.filter(({ endUtcMs }) => endUtcMs <= story.nowUtcMs);
  const nights = past.slice(0, -LEFT_OPEN);
  if (nights.length === 0) return;
  const exposed = new Set(story.exposures.map(({ nightDate }) => nightDate));
  const cloudy = nights.filter(({ nightDate }) => !exposed.has(nightDate));
  const clockTime = (utcMs: number): string => DateTime.fromMillis(utcMs, { zone: STATION.timeZone }).toFormat('HH:mm');
  const clock = createClock(story.nowUtcMs);
  const changes = createChangeService({ database });
  const observatory = createObservatoryService({ database, clock, changes });
  const service = createTimeAccountService({ database, clock, changes, observatory });
  for (const id of rigIds.values()) {
    for (const night of cloudy) {
      const { duskUtcMs, dawnUtcMs } = sunPassage(STATION, night, DUSK_DEG);
      if (duskUtcMs === null || dawnUtcMs === null) continue;
      await service.remark(
        viewers.get('petra')!,
        { id, nightDate: night.nightDate },
        {
          kind: 'weather',
          from: clockTime(duskUtcMs),
          to: clockTime(dawnUtcMs),
          words: 'cloud all night, roof shut',
        },
      );
    }
    await service.close(viewers.get('ilse')!, id, { from: nights[0].nightDate, to: nights.at(-1)!.nightDate });
  }
}
