import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { HOUR_MS } from '../../units.ts';
import { planNight } from '../night/plan-night.ts';
import { earlyEnds, hazardOf } from './night-cuts.ts';

const OPTIONS = { seed: 1, iterations: 600 };
const request = nightInstance({ seed: 4, goals: 16 });
const { plan } = planNight(request, OPTIONS);

describe('a plan, should its night end early', () => {
  it('is told each full hour from its first stay to its last end', () => {
    const { cuts, price } = earlyEnds(request, plan, OPTIONS)!;
    const ends = cuts.map(({ utcMs }) => utcMs);
    expect(ends.at(-1)).toBe(plan.blocks.at(-1)!.endUtcMs);
    expect(ends[0]).toBeGreaterThan(plan.blocks[0].startUtcMs);
    for (const utcMs of ends.slice(0, -1)) expect(utcMs % HOUR_MS).toBe(0);
    expect(price).toBeNull();
  });

  it('holds, by each of them, the exposures whose light is whole', () => {
    const runs = plan.blocks.flatMap((block) => block.runs);
    for (const { utcMs, exposures } of earlyEnds(request, plan, OPTIONS)!.cuts)
      for (const { goalId, count } of exposures) {
        const whole = runs.filter((run) => run.goalId === goalId).flatMap(({ exposureStartsUtcMs, exposureSec }) => exposureStartsUtcMs.filter((startUtcMs) => startUtcMs + 1000 * exposureSec <= utcMs)); // prettier-ignore
        expect(count).toBe(whole.length);
      }
  });

  it('has a price where plans allow for it', () => {
    const { price } = earlyEnds({ ...request, endHazardPerHour: hazardOf(0.3) }, plan, OPTIONS)!;
    expect(price!.gainShare).toBeGreaterThan(0);
    expect(price!.lostShare).toBeGreaterThanOrEqual(0);
  });

  it('is nothing where there is no plan', () => {
    expect(earlyEnds(request, { blocks: [] }, OPTIONS)).toBeNull();
  });
});

describe('the hazard of a chance in an hour', () => {
  it.each([{ chance: 0 }, { chance: 0.1 }, { chance: 0.5 }])(
    'lets a night outlast an hour as often: $chance',
    ({ chance }) => {
      expect(Math.exp(-hazardOf(chance))).toBeCloseTo(1 - chance, 12);
    },
  );
});
