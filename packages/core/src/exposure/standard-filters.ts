// Filters that most cameras of this work carry, with numbers to begin from; each observatory edits its own.
import type { FilterClass } from './filter-sky.ts';
import { DEFAULT_MOON_FACTORS } from './filter-sky.ts';

export interface StandardFilter {
  readonly letter: string;
  readonly name: string;
  readonly class: FilterClass;
  readonly centreNm: number;
  readonly widthNm: number;
  readonly extinctionMagPerAirmass: number;
  /** Sky brightness at the zenith without moon, magnitudes per square arcsecond. */
  readonly zenithMag: number;
  readonly moonFactor: number;
}

const filter = (
  letter: string,
  name: string,
  [centreNm, widthNm, extinctionMagPerAirmass, zenithMag]: readonly [number, number, number, number],
): StandardFilter => ({
  letter,
  name,
  class: widthNm < 30 ? 'narrowband' : 'broadband',
  centreNm,
  widthNm,
  extinctionMagPerAirmass,
  zenithMag,
  moonFactor: DEFAULT_MOON_FACTORS[letter],
});

export const STANDARD_FILTERS: readonly StandardFilter[] = [
  filter('L', 'Luminance', [550, 260, 0.17, 21.6]),
  filter('R', 'Red', [635, 95, 0.12, 21.0]),
  filter('G', 'Green', [530, 85, 0.17, 21.7]),
  filter('B', 'Blue', [450, 95, 0.27, 22.3]),
  filter('Ha', 'Hydrogen alpha, 5 nm', [656.3, 5, 0.11, 20.9]),
  filter('OIII', 'Oxygen III, 5 nm', [500.7, 5, 0.19, 21.9]),
  filter('SII', 'Sulphur II, 5 nm', [672.4, 5, 0.1, 20.8]),
];
