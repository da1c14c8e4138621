import type { Tally } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { count, hours } from '../words/format.ts';
import { filterColour, filterTexture } from './filter-look.ts';

interface ProgressBarProps {
  readonly letter: string;
  readonly filterClass: FilterClass;
  readonly tally: Tally;
}

/** Accepted solid, undecided outlined, wanted a dotted track, rejected a tick below the line. */
export function ProgressBar({ letter, filterClass, tally }: ProgressBarProps) {
  const whole = Math.max(tally.wanted ?? 0, tally.accepted + tally.undecided, 1);
  const width = (value: number): string => `${(100 * value) / whole}%`;
  const words = `${letter}: ${count(tally.accepted)} accepted, ${count(tally.undecided)} undecided, ${count(tally.rejected)} rejected of ${tally.wanted ?? 'open-ended'} wanted, ${hours(tally.acceptedHours)} h`;
  return (
    <span role="img" aria-label={words} title={words} className="relative block h-[13px] w-full">
      <span className="absolute inset-x-0 top-[5px] border-b border-dotted border-soft" />
      <span
        className={`absolute left-0 top-[1px] h-[9px] ${filterTexture(filterClass)}`}
        style={{ width: width(tally.accepted), backgroundColor: filterColour(letter) }}
      />
      <span
        className="absolute top-[1px] h-[9px] border"
        style={{
          left: width(tally.accepted),
          width: width(tally.undecided),
          borderColor: tally.undecided > 0 ? filterColour(letter) : 'transparent',
        }}
      />
      {tally.rejected > 0 && (
        <span
          className="absolute left-0 top-[11px] h-[2px] bg-signal"
          style={{ width: `min(100%, ${width(tally.rejected)})` }}
        />
      )}
    </span>
  );
}
