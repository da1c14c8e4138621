import { describe, expect, it } from '@jest/globals';
import { nightDatePlus } from '../time/nights.ts';
import { countsOn } from './last-night.ts';

describe('work after a project’s last night', () => {
  const lastNight = '2027-02-27';
  it('counts nothing where the last night is firm, and all until then', () => {
    const firm = { lastNight, decayNights: null };
    expect([lastNight, '2027-02-28', '2027-01-01'].map((night) => countsOn(night, firm))).toEqual([1, 0, 1]);
  });
  it('counts less night by night where it is not, down to nothing, over the end of a month', () => {
    const soft = { lastNight, decayNights: 4 };
    const counts = Array.from({ length: 7 }, (_, i) => countsOn(nightDatePlus(lastNight, i), soft));
    expect(counts).toEqual([1, 0.75, 0.5, 0.25, 0, 0, 0]);
  });
  it('counts always where no night is the last', () =>
    expect(countsOn('2099-01-01', { lastNight: null, decayNights: 5 })).toBe(1));
});
