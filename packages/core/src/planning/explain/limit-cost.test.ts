import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { exposuresThatFit } from '../../exposure/what-fits.ts';
import { observingNight, nightDatePlus } from '../../time/nights.ts';
import { limitCost, usableSecByNight } from './limit-cost.ts';

const whole = nightInstance({ seed: 2, goals: 12, night: 18 });
const [goal] = whole.goals.filter(({ toPlan }) => toPlan > 0);
const request = { ...whole, goals: [goal] };
const nights = Array.from({ length: 29 }, (_, i) =>
  observingNight(nightDatePlus(whole.night.nightDate, i), whole.timeZone),
);
const hoursOf = (cost: ReturnType<typeof limitCost>, key: 'hours' | 'hoursWithout' | 'hoursProposed'): number =>
  cost.nights.reduce((sum, night) => sum + night[key], 0);

describe('what a limit costs', () => {
  it('is never negative, and more the stricter it is', () => {
    const steps = [20, 35, 50, 65].map((value) => limitCost(request, nights, 'minAltitudeDeg', value));
    for (const cost of steps)
      for (const { hours, hoursWithout } of cost.nights) expect(hoursWithout).toBeGreaterThanOrEqual(hours - 1e-6);
    const hours = steps.map((cost) => hoursOf(cost, 'hoursProposed'));
    expect([...hours].sort((a, b) => b - a)).toEqual(hours);
    expect(hours[0]).toBeGreaterThan(hours[3]);
  });

  it('is nothing for what is proposed as it is', () => {
    const cost = limitCost(request, nights.slice(0, 3), 'moonlightToleranceMag', undefined);
    expect(hoursOf(cost, 'hoursProposed')).toBe(hoursOf(cost, 'hours'));
  });

  it('of a moon that must be down follows the lunation', () => {
    const cost = limitCost(request, nights, 'moonAltitudeMaxDeg', 0);
    const lost = cost.nights.map(({ hours, hoursProposed }) => hours - hoursProposed);
    expect(Math.max(...lost)).toBeGreaterThan(1);
    expect(Math.min(...lost)).toBeLessThan(0.2);
  });
});

describe('what fits', () => {
  it('pays a change a night and ends inside the window', () => {
    expect(exposuresThatFit([3600], { cycleSec: 310, exposureSec: 300, changeSec: 120 })).toBe(11);
    expect(exposuresThatFit([300], { cycleSec: 310, exposureSec: 300, changeSec: 1 })).toBe(0);
    expect(exposuresThatFit([3600, 0, 3600], { cycleSec: 310, exposureSec: 300, changeSec: 120 })).toBe(22);
  });

  it('is asked of every night', () => {
    const usable = usableSecByNight(request, nights.slice(0, 4));
    expect(usable).toHaveLength(4);
    for (const [sec] of usable) expect(sec).toBeGreaterThanOrEqual(0);
  });
});
