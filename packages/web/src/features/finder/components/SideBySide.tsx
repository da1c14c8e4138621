import type { NightSky } from '@meridiem/contract';
import type { ObservingNight, WorthSetting } from '@meridiem/core';
import { hoursOf, moonSeparationDeg, nightSky, usableStretches, yearOfHours } from '@meridiem/core';
import { useMemo } from 'react';
import { clock, degrees, percent } from '../../../words/format.ts';
import { culmination, seasonWords } from '../target-words.ts';
import type { FinderTarget } from './ChosenTarget.tsx';
import { thumbnailOf } from './RankedList.tsx';

interface SideBySideProps {
  readonly targets: readonly FinderTarget[];
  readonly setting: WorthSetting;
  readonly classNames: readonly string[];
  readonly byClass: number;
  readonly sky: NightSky;
  readonly zone: string;
  readonly nights: readonly ObservingNight[];
  readonly fieldDeg: number;
  readonly onRemove: (target: FinderTarget) => void;
}

/** Up to six candidates in columns, the same question in each row. */
export function SideBySide({
  targets,
  setting,
  classNames,
  byClass,
  sky,
  zone,
  nights,
  fieldDeg,
  onRemove,
}: SideBySideProps) {
  const columns = useMemo(() => {
    const tonight = nightSky(setting, nights[0]);
    const during = { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs };
    return targets.map((target) => ({
      target,
      usable: usableStretches(tonight, target),
      top: culmination(setting, target, during),
      season: seasonWords(yearOfHours(setting, target, nights), byClass, nights[0].nightDate),
      moonDeg: moonSeparationDeg(setting.site, target, (during.startUtcMs + during.endUtcMs) / 2),
    }));
  }, [targets, setting, nights, sky, byClass]);
  const row = (name: string, cell: (column: (typeof columns)[number]) => React.ReactNode) => (
    <tr className="rule">
      <th scope="row">{name}</th>
      {columns.map((column) => (
        <td key={column.target.designation}>{cell(column)}</td>
      ))}
    </tr>
  );
  return (
    <section aria-label="Side by side" className="mt-4 overflow-x-auto">
      <table>
        <thead>
          <tr>
            <th aria-label="Question" />
            {columns.map(({ target }) => (
              <th key={target.designation} scope="col" className="!normal-case">
                <img src={thumbnailOf(target)} alt="" width={72} height={72} className="bg-[var(--sky-night)]" />
                <span className="font-serif text-base text-ink">{target.designation}</span>{' '}
                <button
                  type="button"
                  className="cursor-pointer text-brass"
                  aria-label={`Take ${target.designation} away`}
                  onClick={() => onRemove(target)}
                >
                  ×
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {row('kind', ({ target }) => target.kind)}
          {row('highest tonight', ({ top }) =>
            top ? `${degrees(top.altitudeDeg, 0)} at ${clock(top.utcMs, zone)}` : 'by day',
          )}
          {classNames.map((name, c) => row(`${name} tonight`, ({ usable }) => `${hoursOf(usable[c]).toFixed(1)} h`))}
          {row('season', ({ season }) => season)}
          {row('moon', ({ moonDeg }) => `${degrees(moonDeg, 0)} away`)}
          {row('of the field', ({ target }) =>
            target.sizeArcmin ? percent(target.sizeArcmin / 60 / fieldDeg) : 'not known',
          )}
        </tbody>
      </table>
    </section>
  );
}
