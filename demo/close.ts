// Closes the demo's past nights through the application's own service: cloudy ones are said to be so, the newest wait for a person.
import { sunPassage } from '@meridiem/core';
import { createClock } from '../packages/server/src/clock.ts';
import type { Database } from '../packages/server/src/database/connection.ts';
import { insertRows } from '../packages/server/src/database/insert-rows-repository.ts';
import { createChangeService } from '../packages/server/src/modules/changes/index.ts';
import { createTimeAccountService } from '../packages/server/src/modules/time-account/index.ts';
import { emailOf } from './people.ts';
import { STATION } from './station.ts';
import type { Story } from './story.ts';

/** Nights that the coordinator of the demo has not closed yet. */
const LEFT_OPEN = 2;
/** Observing would have begun and ended at this depth of the sun. */
const DUSK_DEG = -12;

export async function closeHistory(database: Database, story: Story): Promise<void> {
  const past = story.nights.filter(({ endUtcMs }) => endUtcMs <= story.nowUtcMs);
  const nights = past.slice(0, -LEFT_OPEN);
  if (nights.length === 0) return;
  const coordinator = await personOf(database, 'ilse');
  const helper = await personOf(database, 'petra');
  const rigs = await database.rows<{ id: string; observatoryId: string }>(
    'SELECT id, observatory_id AS "observatoryId" FROM rigs ORDER BY position',
  );
  const exposed = new Set(story.exposures.map(({ nightDate }) => nightDate));
  const cloudy = nights.filter(({ nightDate }) => !exposed.has(nightDate));
  const iso = (utcMs: number): string => new Date(utcMs).toISOString();
  const clock = createClock(story.nowUtcMs);
  const service = createTimeAccountService({ database, clock, changes: createChangeService({ database }) });
  for (const rig of rigs) {
    await insertRows(
      database,
      'time_remarks',
      cloudy.flatMap((night) => {
        const { duskUtcMs, dawnUtcMs } = sunPassage(STATION, night, DUSK_DEG);
        if (duskUtcMs === null || dawnUtcMs === null) return [];
        return [
          {
            observatory_id: rig.observatoryId,
            rig_id: rig.id,
            during: `[${iso(duskUtcMs)},${iso(dawnUtcMs)})`,
            kind: 'weather',
            words: 'cloud all night, roof shut',
            person_id: helper,
            at: iso(dawnUtcMs),
          },
        ];
      }),
    );
    const viewer = {
      personId: coordinator,
      observatoryId: rig.observatoryId,
      name: '',
      role: 'coordinator' as const,
      timeZone: STATION.timeZone,
    };
    await service.close(viewer, rig.id, { from: nights[0].nightDate, to: nights.at(-1)!.nightDate });
  }
}

async function personOf(database: Database, key: string): Promise<string> {
  const person = await database.one<{ id: string }>('SELECT id FROM people WHERE email = $1', [emailOf({ key })]);
  return person!.id;
}
