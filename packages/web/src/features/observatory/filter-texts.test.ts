import { describe, expect, it } from '@jest/globals';
import type { Filter } from '@meridiem/contract';
import { filterFrom, filterTextsOf, likeUsual } from './filter-texts.ts';

const typed = { ...filterTextsOf(null), letter: ' Hb ', name: 'Hydrogen beta', class: 'narrowband' as const, centreNm: '486,1', widthNm: '7' }; // prettier-ignore

describe('a new filter as typed', () => {
  it('takes what is left empty from the usual filter nearest to it', () => {
    expect(likeUsual('narrowband', 486).letter).toBe('OIII');
    expect(likeUsual('broadband', 486).letter).toBe('B');
    expect(likeUsual('colour', 560).letter).toBe('L');
    const { extinctionMagPerAirmass, zenithMag, moonFactor } = likeUsual('narrowband', 486.1);
    expect(filterFrom(typed)).toEqual({
      letter: 'Hb',
      name: 'Hydrogen beta',
      class: 'narrowband',
      centreNm: 486.1,
      widthNm: 7,
      extinctionMagPerAirmass,
      zenithMag,
      moonFactor,
    });
    expect(filterFrom({ ...typed, zenithMag: '22.1' }).zenithMag).toBe(22.1);
  });

  it.each([
    ['letter', ' '],
    ['name', ''],
    ['centreNm', ''],
    ['widthNm', 'wide'],
    ['moonFactor', 'some'],
  ] as const)('names the field %s where it can’t be read', (field, text) => {
    expect(() => filterFrom({ ...typed, [field]: text })).toThrow(expect.objectContaining({ field }));
  });

  it('duplicated keeps the numbers and asks for names of its own', () => {
    const filter = { letter: 'Ha', name: 'Alpha', class: 'narrowband', centreNm: 656.3, widthNm: 5, extinctionMagPerAirmass: 0.11, zenithMag: 20.9, moonFactor: 1 } as Filter; // prettier-ignore
    const texts = filterTextsOf(filter);
    expect([texts.letter, texts.name]).toEqual(['', '']);
    expect(filterFrom({ ...texts, letter: 'Ha3', name: 'Alpha, 3 nm', widthNm: '3' })).toEqual({
      letter: 'Ha3',
      name: 'Alpha, 3 nm',
      class: 'narrowband',
      centreNm: 656.3,
      widthNm: 3,
      extinctionMagPerAirmass: 0.11,
      zenithMag: 20.9,
      moonFactor: 1,
    });
  });
});
