import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { outlookOf } from './outlook.ts';
import { planNight } from '../night/plan-night.ts';

const OPTIONS = { seed: 1, iterations: 60 };
const request = nightInstance({ seed: 5, goals: 4, night: 40 });
const nightsFrom = (count: number) =>
  Array.from({ length: count }, (_, i) => observingNight(nightDatePlus(request.night.nightDate, i), request.timeZone));
const wanting = (count: number) => ({
  ...request,
  goals: request.goals.map((goal) => ({ ...goal, toPlan: count, done: 0, wanted: count })),
});

describe('the outlook', () => {
  it('needs no night where nothing is left', () => {
    expect(outlookOf(wanting(0), nightsFrom(5), OPTIONS)).toEqual({
      nights: [],
      doneNightDate: null,
      leftExposures: 0,
    });
  });

  it('begins with the night that the planner would plan', () => {
    const asked = wanting(400);
    const [first] = outlookOf(asked, nightsFrom(1), OPTIONS).nights;
    const runs = planNight({ ...asked, fromUtcMs: null }, OPTIONS).plan.blocks.flatMap((block) => block.runs);
    expect(first.exposures).toBe(runs.reduce((sum, run) => sum + run.exposureStartsUtcMs.length, 0));
  });

  it('places each exposure once, over as many nights as that takes', () => {
    const asked = wanting(60);
    const { nights, leftExposures, doneNightDate } = outlookOf(asked, nightsFrom(12), OPTIONS);
    const placed = nights.reduce((sum, { exposures }) => sum + exposures, 0);
    expect(placed + leftExposures).toBe(60 * asked.goals.length);
    if (leftExposures === 0) expect(doneNightDate).toBe(nights.at(-1)!.nightDate);
    else expect(doneNightDate).toBeNull();
    expect(nights.length).toBeGreaterThan(1);
  });

  it('says what finds no place when the nights end first', () => {
    const { leftExposures, doneNightDate } = outlookOf(wanting(5000), nightsFrom(2), OPTIONS);
    expect(leftExposures).toBeGreaterThan(0);
    expect(doneNightDate).toBeNull();
  });
});
