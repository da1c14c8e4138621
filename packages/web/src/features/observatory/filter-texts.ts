// A new filter as it is typed: numbers of the usual filter nearest to it stand ready.
import type { BodyOf, Filter, addFilter } from '@meridiem/contract';
import { STANDARD_FILTERS } from '@meridiem/core';
import { typedNumber } from '../../words/typed.ts';

export const FILTER_CLASSES = [
  { value: 'broadband', words: 'broadband' },
  { value: 'narrowband', words: 'narrowband' },
  { value: 'colour', words: 'colour camera' },
] as const;

export interface FilterTexts {
  readonly letter: string;
  readonly name: string;
  readonly class: Filter['class'];
  readonly centreNm: string;
  readonly widthNm: string;
  /** Empty: those of the usual filter nearest in wavelength. */
  readonly extinctionMagPerAirmass: string;
  readonly zenithMag: string;
  readonly moonFactor: string;
}

export const FILTER_LABELS: readonly { key: Exclude<keyof FilterTexts, 'class'>; label: string; mayWait?: boolean }[] =
  [
    { key: 'letter', label: 'Short name, on plans' },
    { key: 'name', label: 'Name' },
    { key: 'centreNm', label: 'Centre, nm' },
    { key: 'widthNm', label: 'Width, nm' },
    { key: 'extinctionMagPerAirmass', label: 'Extinction, mag/airmass', mayWait: true },
    { key: 'zenithMag', label: 'Dark zenith, mag/arcsec²', mayWait: true },
    { key: 'moonFactor', label: 'Moonlight against V, ×', mayWait: true },
  ];

/** Texts of a copy of a filter, which needs names of its own; empty ones for a new one. */
export const filterTextsOf = (filter: Filter | null): FilterTexts => ({
  letter: '',
  name: '',
  class: filter?.class ?? 'broadband',
  centreNm: String(filter?.centreNm ?? ''),
  widthNm: String(filter?.widthNm ?? ''),
  extinctionMagPerAirmass: String(filter?.extinctionMagPerAirmass ?? ''),
  zenithMag: String(filter?.zenithMag ?? ''),
  moonFactor: String(filter?.moonFactor ?? ''),
});

/** The usual filter of a class nearest in wavelength; colour filters are wide ones. */
export function likeUsual(of: Filter['class'], centreNm: number): (typeof STANDARD_FILTERS)[number] {
  const alike = STANDARD_FILTERS.filter((usual) => usual.class === (of === 'colour' ? 'broadband' : of));
  return alike.reduce((best, usual) =>
    Math.abs(usual.centreNm - centreNm) < Math.abs(best.centreNm - centreNm) ? usual : best,
  );
}

/** @throws Error with the field and what would be accepted */
export function filterFrom(typed: FilterTexts): BodyOf<typeof addFilter> {
  const at = <T>(field: keyof FilterTexts, read: () => T): T => {
    try {
      return read();
    } catch (error) {
      throw Object.assign(error as Error, { field });
    }
  };
  const named = (field: 'letter' | 'name'): string =>
    at(field, () => {
      if (typed[field].trim() === '') throw new Error('Needed');
      return typed[field].trim();
    });
  const number = (field: 'centreNm' | 'widthNm', what: string): number =>
    at(field, () => typedNumber(typed[field], what));
  const [letter, name] = [named('letter'), named('name')];
  const [centreNm, widthNm] = [number('centreNm', 'wavelength'), number('widthNm', 'width')];
  const usual = likeUsual(typed.class, centreNm);
  const orUsual = (field: 'extinctionMagPerAirmass' | 'zenithMag' | 'moonFactor', what: string): number =>
    at(field, () => (typed[field].trim() === '' ? usual[field] : typedNumber(typed[field], what)));
  return {
    letter,
    name,
    class: typed.class,
    centreNm,
    widthNm,
    extinctionMagPerAirmass: orUsual('extinctionMagPerAirmass', 'extinction'),
    zenithMag: orUsual('zenithMag', 'brightness'),
    moonFactor: orUsual('moonFactor', 'factor'),
  };
}
