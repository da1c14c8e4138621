// The three cues of a filter that bars, tabs and blocks share: letter, colour, texture.
import type { FilterClass } from '@meridiem/core';

const KNOWN = ['L', 'R', 'G', 'B', 'Ha', 'OIII', 'SII'];

export const filterColour = (letter: string): string =>
  `var(--filter-${KNOWN.includes(letter) ? letter.toLowerCase() : 'l'})`;
export const filterTexture = (filterClass: FilterClass): string =>
  filterClass === 'narrowband' ? 'hatched' : filterClass === 'colour' ? 'checkered' : '';
