// A night as such: which one is meant, and its sky.
import type { ResponseOf, readNightSky } from '@meridiem/contract';
import { nightDateAt, observingNight } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { keptNightSky } from './kept-sky.ts';

export type NightService = ReturnType<typeof createNightService>;

export const createNightService = ({
  clock,
  observatory: observatories,
}: {
  clock: Clock;
  observatory: ObservatoryService;
}) => ({
  async sky(observatoryId: string, nightDate: string): Promise<ResponseOf<typeof readNightSky>> {
    const site = await observatories.site(observatoryId);
    const named = nightDate === 'tonight' ? nightDateAt(clock.nowUtcMs(), site.timeZone) : nightDate;
    return {
      sky: keptNightSky(site, observingNight(named, site.timeZone)),
      timeZone: site.timeZone,
      nowUtcMs: clock.nowUtcMs(),
    };
  },
});
