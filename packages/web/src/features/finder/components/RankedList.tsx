import type { ObservingNight, Worth } from '@meridiem/core';
import { useState } from 'react';
import { dayOf, hours, percent } from '../../../words/format.ts';
import type { FinderTarget } from './ChosenTarget.tsx';

interface RankedListProps {
  readonly rows: readonly { readonly target: FinderTarget; readonly worth: Worth }[];
  readonly classNames: readonly string[];
  readonly nights: readonly ObservingNight[];
  readonly chosen: string | null;
  readonly compared: readonly string[];
  readonly onChoose: (target: FinderTarget) => void;
  readonly onCompare: (target: FinderTarget) => void;
}

const PAGE = 40;
export const MOST_COMPARED = 6;

/** Thumbnails of wide objects show twice their size. */
export const thumbnailOf = ({ raDeg, decDeg, sizeArcmin }: FinderTarget): string => {
  const widthDeg = Math.min(20, Math.max(0.15, ((sizeArcmin ?? 8) / 60) * 2));
  return `/api/survey/thumbnail?raDeg=${raDeg.toFixed(4)}&decDeg=${decDeg.toFixed(4)}&widthDeg=${widthDeg.toFixed(3)}`;
};

/** What is worth the coming nights, the best first. */
export function RankedList({ rows, classNames, nights, chosen, compared, onChoose, onCompare }: RankedListProps) {
  const [shown, setShown] = useState(PAGE);
  return (
    <>
      <table className="w-full [&_td]:align-middle">
        <caption className="pb-1 text-left text-sm text-soft">
          Ranked by usable hours in these nights (height, horizon, Moon and your limits), weighed by how well the size
          fills the field.
        </caption>
        <thead>
          <tr className="rule">
            <th aria-label="Picture" />
            <th>target</th>
            <th>kind</th>
            <th className="text-right">of the field</th>
            {classNames.map((name) => (
              <th key={name} className="text-right">
                {name.replace('band', '')}, h
              </th>
            ))}
            <th>best night</th>
            <th>beside</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, shown).map(({ target, worth }) => (
            <tr
              key={target.designation}
              className={`rule cursor-pointer ${chosen === target.designation ? 'bg-wash' : ''}`}
              aria-selected={chosen === target.designation}
              onClick={() => onChoose(target)}
            >
              <td className="!py-0.5">
                <img
                  src={thumbnailOf(target)}
                  alt=""
                  width={44}
                  height={44}
                  loading="lazy"
                  className="block size-11 max-w-none bg-[var(--sky-night)]"
                />
              </td>
              <td>
                <button
                  type="button"
                  className="word-link cursor-pointer text-left font-semibold"
                  onClick={() => onChoose(target)}
                >
                  {target.designation}
                </button>
                <br />
                <span className="text-soft">{target.name}</span>
              </td>
              <td className="text-soft">
                {target.kind}
                {target.mag === null ? '' : <span className="whitespace-nowrap">, {target.mag.toFixed(1)} mag</span>}
              </td>
              <td className="text-right">
                {worth.fieldShare === null ? <span className="text-soft">not known</span> : percent(worth.fieldShare)}
              </td>
              {worth.hours.map((value, c) => (
                <td key={c} className="text-right">
                  {worth.nightly === null ? 'about ' : ''}
                  {hours(value)}
                </td>
              ))}
              <td className="whitespace-nowrap">
                {worth.best ? (
                  `${dayOf(nights[worth.best.night].nightDate)}, ${hours(worth.best.hours)} h`
                ) : (
                  <span className="text-soft">none</span>
                )}
              </td>
              <td onClick={(event) => event.stopPropagation()}>
                <input
                  type="checkbox"
                  aria-label={`Show ${target.designation} for comparison`}
                  checked={compared.includes(target.designation)}
                  disabled={!compared.includes(target.designation) && compared.length >= MOST_COMPARED}
                  onChange={() => onCompare(target)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > shown && (
        <p className="mt-2">
          <button type="button" className="act" onClick={() => setShown(shown + PAGE)}>
            Show more of {rows.length}
          </button>
        </p>
      )}
    </>
  );
}
