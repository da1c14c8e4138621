import { describe, expect, it } from '@jest/globals';
import { RATE_FILTERS, RATE_SKIES, rateTable } from './rate-table.ts';

const table = rateTable();
const rate = (letter: string, sky: string): number =>
  table.find((row) => row.letter === letter)!.rates[RATE_SKIES.findIndex((at) => at.name.startsWith(sky))];
/** The smallest useful rates by class, which PRODUCT's defaults give. */
const USEFUL = { broadband: 0.35, narrowband: 0.2, colour: 0.35 };

describe('table of signal rates', () => {
  it('has eight filters under six skies', () => {
    expect(RATE_FILTERS).toHaveLength(8);
    expect(RATE_SKIES).toHaveLength(6);
  });

  it('is 1 for every filter in the dark at the zenith', () => {
    for (const { rates } of table) expect(rates[0]).toBeCloseTo(1, 3);
  });

  it('lets Hα and SII bear a moon that shuts out L and B', () => {
    const useful = RATE_FILTERS.filter(([letter, filter]) => rate(letter, 'gibbous') >= USEFUL[filter.class]).map(
      ([letter]) => letter,
    );
    expect(useful).toEqual(expect.arrayContaining(['Ha', 'SII']));
    expect(useful).not.toContain('L');
    expect(useful).not.toContain('B');
  });

  it('gives OIII less than half of what Hα keeps under the moon', () => {
    expect(rate('OIII', 'full')).toBeLessThan(rate('Ha', 'full') / 2);
    expect(rate('OIII', 'gibbous')).toBeLessThan(rate('Ha', 'gibbous') / 1.8);
  });

  it('falls for every filter with altitude, moon and twilight', () => {
    for (const { rates } of table) for (const value of rates.slice(1)) expect(value).toBeLessThan(0.95);
  });
});
