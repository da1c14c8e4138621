import { describe, expect, it } from '@jest/globals';
import { starLineReader } from './star-list.ts';

describe('a list of stars', () => {
  it.each([
    ['ra,dec,mag', '10.5,-20.25,11.3'],
    ['id;RA_deg;Dec (deg);V mag', '77;10.5;-20.25;11.3'],
    ['_RAJ2000\t_DEJ2000\tGmag', '10.5\t-20.25\t11.3'],
  ])('under "%s" is read', (heading, line) =>
    expect(starLineReader(heading)(line)).toEqual({ raDeg: 10.5, decDeg: -20.25, mag: 11.3 }),
  );

  it('leaves out lines that hold no star', () => {
    const read = starLineReader('ra,dec,mag');
    for (const line of ['', '10,20,', ',,', '400,0,9', '10,-91,9', '10,20,99', 'a,b,c', '10,20']) expect(read(line)).toBeNull(); // prettier-ignore
  });

  it('says which column its heading lacks', () => {
    expect(() => starLineReader('ra,magnitude')).toThrow('no column for dec');
    expect(() => starLineReader('')).toThrow('no column for ra, dec, mag');
  });
});
