// The three cues of a filter that bars, tabs and blocks share: letter, colour, texture.
import type { FilterClass } from '@meridiem/core';

/** Longest first: "SII 3 nm" is a sulphur line. */
const KNOWN = ['OIII', 'SII', 'Ha', 'L', 'R', 'G', 'B'];

/** An own filter has the colour of the usual one that its short name begins with; else the neutral one. */
export function filterColour(letter: string): string {
  const like = KNOWN.find((known) => letter.toLowerCase().startsWith(known.toLowerCase()));
  return `var(--filter-${(like ?? 'L').toLowerCase()})`;
}
export const filterTexture = (filterClass: FilterClass): string =>
  filterClass === 'narrowband' ? 'hatched' : filterClass === 'colour' ? 'checkered' : '';
