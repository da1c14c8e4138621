import type { FilterClass } from '@meridiem/core';
import { filterColour, filterTexture } from './filter-look.ts';

/** A filter's token: its letter in a small tab, its colour, and its texture by class. */
export const FilterTab = ({
  letter,
  filterClass,
  dim = false,
}: {
  letter: string;
  filterClass: FilterClass;
  dim?: boolean;
}) => (
  <span
    className={`inline-flex items-baseline whitespace-nowrap text-sm font-semibold ${dim ? 'font-normal italic text-soft' : ''}`}
    title={`${letter}, ${filterClass}`}
  >
    <span
      aria-hidden
      className={`mr-1 inline-block h-[11px] w-[9px] self-center ${filterTexture(filterClass)}`}
      style={{ backgroundColor: filterColour(letter) }}
    />
    {letter}
  </span>
);
