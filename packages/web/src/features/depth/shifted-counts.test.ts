import { describe, expect, it } from '@jest/globals';
import type { Goal } from '@meridiem/contract';
import { shiftedCounts } from './shifted-counts.ts';

const goal = (id: string, filterId: string, wanted: number | null, accepted: number, more: Partial<Goal> = {}): Goal =>
  ({ id, filterId, wanted, exposureSec: 300, enabled: true, tally: { accepted, undecided: 0 }, ...more }) as Goal;
const told = (filterId: string, worthSec: number) => ({ filterId, letter: filterId, measured: 24, exposureSec: 7200, worthSec }); // prettier-ignore

describe('counts shifted between filters', () => {
  const goals = [goal('r', 'R', 60, 24), goal('b1', 'B', 30, 12), goal('b2', 'B', 30, 12)];

  it('go to the filter whose exposures were worth less, spread over its panels, and add no hour', () => {
    const { filters, counts } = shiftedCounts(goals, [told('R', 7200), told('B', 3600)])!;
    expect(filters.map(({ letter, worth }) => [letter, worth])).toEqual([['R', '2.0 of 2.0 h'], ['B', '1.0 of 2.0 h']]); // prettier-ignore
    const [red, blue] = filters;
    expect(red.proposed).toBeLessThan(60);
    expect(blue.proposed).toBeGreaterThan(60);
    expect(red.proposed + blue.proposed).toBeLessThanOrEqual(120);
    expect(red.proposed + blue.proposed).toBeGreaterThan(116);
    expect([red.gain, blue.gain]).toEqual([expect.stringMatching(/^−\d+ %$/), expect.stringMatching(/^\+\d+ %$/)]);
    const [b1, b2] = counts.filter(({ goal: { filterId } }) => filterId === 'B');
    expect(b1.count).toBe(b2.count);
    for (const { goal: of, count } of counts) expect(count).toBeGreaterThanOrEqual(of.tally.accepted);
  });

  it('are none where all were worth their time, or there is nothing to shift between', () => {
    expect(shiftedCounts(goals, [told('R', 7200), told('B', 7200)])).toBeNull();
    expect(shiftedCounts(goals.slice(0, 1), [told('R', 3600), told('B', 3600)])).toBeNull();
    expect(shiftedCounts([goal('r', 'R', null, 4), goal('b', 'B', 9, 4, { enabled: false })], [told('R', 1), told('B', 1)])).toBeNull(); // prettier-ignore
    const unmeasured = [told('R', 0), told('B', 0)].map((one) => ({ ...one, measured: 0, exposureSec: 0 }));
    expect(shiftedCounts(goals, unmeasured)).toBeNull();
  });

  it('ask nothing more of a filter that has all it wants and more', () => {
    const { counts } = shiftedCounts([goal('r', 'R', 20, 24), goal('b', 'B', 60, 24), goal('g', 'G', 60, 24)], [told('R', 7200), told('B', 3600), told('G', 7200)])!; // prettier-ignore
    expect(counts.map(({ goal: { id } }) => id).toSorted()).toEqual(['b', 'g']);
  });
});
