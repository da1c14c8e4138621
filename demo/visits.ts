// A visit of the demo's helper some weeks ahead: a camera turned for what waits for another angle, and a mirror cleaned.
import { nightDatePlus } from '@meridiem/core';
import { createClock } from '../packages/server/src/clock.ts';
import type { Database } from '../packages/server/src/database/connection.ts';
import { createChangeService } from '../packages/server/src/modules/changes/index.ts';
import { createObservatoryService } from '../packages/server/src/modules/observatory/index.ts';
import { createVisitService } from '../packages/server/src/modules/visits/index.ts';
import type { LoadedDemo } from './load.ts';
import { PROJECTS } from './projects.ts';
import { RIGS } from './station.ts';
import type { Story } from './story.ts';

const NIGHTS_AHEAD = 38;

export async function planVisit(database: Database, story: Story, { viewers, rigIds }: LoadedDemo): Promise<void> {
  const changes = createChangeService({ database });
  const observatory = createObservatoryService({ database, clock: createClock(story.nowUtcMs), changes });
  const service = createVisitService({ database, changes, observatory });
  const helper = viewers.get('petra')!;
  const { tonight } = await observatory.read(helper.observatoryId);
  const { angleDeg } = PROJECTS.find(({ key }) => key === 'turned')!;
  const [turned, other] = [rigIds.get('wide')!, rigIds.get(RIGS.find(({ key }) => key !== 'wide')!.key)!];
  const job = { fitsId: null, removesId: null };
  await service.add(helper, {
    nightDate: nightDatePlus(tonight, NIGHTS_AHEAD),
    goesId: helper.personId,
    words: 'Bring the long hex key.',
    jobs: [
      { ...job, rigId: turned, work: 'angle', skyAngleDeg: angleDeg, words: '' },
      { ...job, rigId: other, work: 'cleaning', skyAngleDeg: null, words: 'dust on the corrector' },
    ],
  });
}
