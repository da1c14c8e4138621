import { describe, expect, it } from '@jest/globals';
import { hoursMultiplier, lapsedHours, nightMultiplier, rankWeights } from './multiplier.ts';

const standing = (entitledHours: number, chargedHours: number, dampingHours = 10) => ({
  entitledHours,
  chargedHours,
  dampingHours,
});

describe('what a member’s hours count', () => {
  it('is one for whoever has what they are entitled to, however much fairness counts', () => {
    for (const fairness of [0, 0.5, 1]) expect(hoursMultiplier(standing(20, 20), fairness)).toBe(1);
  });

  it('is more for whoever is behind and less for whoever is ahead', () => {
    expect(hoursMultiplier(standing(30, 10), 1)).toBeCloseTo(2);
    expect(hoursMultiplier(standing(10, 30), 1)).toBeCloseTo(0.5);
    expect(hoursMultiplier(standing(30, 10), 0.5)).toBeCloseTo(1.5);
  });

  it('is one for everybody where fairness counts nothing', () => {
    expect(hoursMultiplier(standing(100, 1), 0)).toBe(1);
    expect(hoursMultiplier(standing(1, 100), 0)).toBe(1);
  });

  it('stays between one half and two and a half', () => {
    expect(hoursMultiplier(standing(1000, 0), 1)).toBe(2.5);
    expect(hoursMultiplier(standing(0, 1000), 1)).toBe(0.5);
  });

  it('is one where there is nothing to go by', () => {
    expect(hoursMultiplier(standing(0, 0, 0), 1)).toBe(1);
  });

  it('rises with what is owed and falls with what is charged', () => {
    for (let hours = 0; hours < 50; hours += 5) {
      expect(hoursMultiplier(standing(hours + 5, 20), 1)).toBeGreaterThanOrEqual(
        hoursMultiplier(standing(hours, 20), 1),
      );
      expect(hoursMultiplier(standing(20, hours + 5), 1)).toBeLessThanOrEqual(hoursMultiplier(standing(20, hours), 1));
    }
  });
});

describe('what is carried over', () => {
  it('is no more than the share of so many open nights; what is beyond lapses', () => {
    const behind = { entitledHours: 80, chargedHours: 20 };
    expect(lapsedHours(behind, 2, 20)).toBe(20);
    expect(lapsedHours(behind, 2, 40)).toBe(0);
    expect(lapsedHours({ entitledHours: 10, chargedHours: 50 }, 2, 20)).toBe(0);
  });
});

describe('a member’s own ranks', () => {
  it('weigh one where all are alike, first or last', () => {
    for (const rank of [1, 2, 3])
      for (const weight of rankWeights([rank, rank, rank], [5, 10, 1])) expect(weight).toBeCloseTo(1);
  });

  it('have a mean of one over the hours left', () => {
    const left = [4, 20, 6];
    const weights = rankWeights([3, 2, 1], left);
    expect(weights.reduce((sum, weight, i) => sum + weight * left[i], 0) / 30).toBeCloseTo(1);
    expect(weights[0]).toBeGreaterThan(weights[1]);
    expect(weights[1]).toBeGreaterThan(weights[2]);
  });

  it('weigh one where nothing is left', () => {
    expect(rankWeights([3, 1], [0, 0])).toEqual([1, 1]);
  });
});

describe('a night', () => {
  const of = { dark: 0.8, bright: 2 };
  it('counts hours by the sky it has: a moonless night knows nothing of moonlit hours', () => {
    expect(nightMultiplier(of, { dark: 8, bright: 0 })).toBe(0.8);
    expect(nightMultiplier(of, { dark: 0, bright: 3 })).toBe(2);
    expect(nightMultiplier(of, { dark: 6, bright: 2 })).toBeCloseTo(1.1);
  });
  it('without hours counts both alike', () => expect(nightMultiplier(of, { dark: 0, bright: 0 })).toBe(1.4));
});
