// A list of stars as a table in text: a heading with right ascension, declination and magnitude, then a star a line.
import Papa from 'papaparse';
import { CoreError } from '../errors.ts';
import type { SkyStar } from '../sky/faint-stars.ts';

/** Headings that are understood, in small letters without signs. */
const RA = ['ra', 'radeg', 'raj2000', 'rightascension'];
const DEC = ['dec', 'decdeg', 'dej2000', 'decj2000', 'declination'];
const MAG = ['mag', 'vmag', 'gmag', 'magnitude', 'vtmag'];

const plain = (heading: string): string => heading.toLowerCase().replaceAll(/[^a-z0-9]/g, '');
const cellsOf = (line: string): string[] => Papa.parse<string[]>(line, { delimitersToGuess: [',', ';', '\t', '|'] }).data[0] ?? []; // prettier-ignore

/** Reads the lines after a heading; degrees on J2000.0 axes.
 * @returns of a line its star; null where it holds none
 * @throws TABLE_UNREADABLE where a column is missing */
export function starLineReader(heading: string): (line: string) => SkyStar | null {
  const names = cellsOf(heading).map(plain);
  const [ra, dec, mag] = [RA, DEC, MAG].map((known) => names.findIndex((name) => known.includes(name)));
  const missing = [ra < 0 && 'ra', dec < 0 && 'dec', mag < 0 && 'mag'].filter(Boolean);
  if (missing.length > 0)
    throw new CoreError('TABLE_UNREADABLE', `The first line names no column for ${missing.join(', ')}`, { missing });
  return (line) => {
    const cells = cellsOf(line);
    const [raDeg, decDeg, magnitude] = [ra, dec, mag].map((at) => (cells[at]?.trim() ? Number(cells[at]) : NaN));
    const isStar = raDeg >= 0 && raDeg < 360 && Math.abs(decDeg) <= 90 && magnitude > -3 && magnitude < 25;
    return isStar ? { raDeg, decDeg, mag: magnitude } : null;
  };
}
