import { describe, expect, it } from '@jest/globals';
import { normalFrom, seededRandom, seedFrom } from './random.ts';

describe('seeded numbers', () => {
  it('are the same for the same seed and others for another', () => {
    const draw = (seed: number): number[] => Array.from({ length: 5 }, seededRandom(seed));
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });
  it('fill [0, 1) evenly', () => {
    const random = seededRandom(1);
    const bins = new Array<number>(10).fill(0);
    for (let i = 0; i < 10_000; i++) bins[Math.floor(random() * 10)] += 1;
    for (const count of bins) expect(Math.abs(count - 1000)).toBeLessThan(150);
  });
  it('make a normal distribution', () => {
    const random = seededRandom(2);
    const values = Array.from({ length: 10_000 }, () => normalFrom(random));
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.05);
    expect(variance).toBeCloseTo(1, 1);
  });
  it('come from words', () => expect(seedFrom('a night')).not.toBe(seedFrom('another night')));
});
