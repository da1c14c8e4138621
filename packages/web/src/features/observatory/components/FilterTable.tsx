import type { Filter } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { typedNumber } from '../../../words/typed.ts';
import { FILTER_CLASSES, filterTextsOf } from '../filter-texts.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { AddFilter } from './AddFilter.tsx';

type NumberKey = 'centreNm' | 'widthNm' | 'extinctionMagPerAirmass' | 'zenithMag' | 'moonFactor';
const COLUMNS: readonly { key: NumberKey; name: string; unit: string }[] = [
  { key: 'centreNm', name: 'centre', unit: 'nm' },
  { key: 'widthNm', name: 'width', unit: 'nm' },
  { key: 'extinctionMagPerAirmass', name: 'extinction', unit: 'mag/airmass' },
  { key: 'zenithMag', name: 'dark zenith', unit: 'mag/arcsec²' },
  { key: 'moonFactor', name: 'moonlight against V', unit: '×' },
];

interface FilterTableProps {
  readonly filters: readonly Filter[];
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Filters with the numbers that the sky model uses. */
export function FilterTable({ filters, mayEdit, changes }: FilterTableProps) {
  const [copied, setCopied] = useState(0);
  const [texts, setTexts] = useState(() => filterTextsOf(null));
  return (
    <section aria-label="Filters" className="mt-10">
      <h2 className="text-xl">Filters</h2>
      <p className="text-soft">
        What moon and twilight do to each filter follows from these numbers; the moonlight factor is an estimate you may
        improve.
      </p>
      <div className="overflow-x-auto">
        <table className="mt-1 w-full">
          <thead>
            <tr className="rule">
              <th scope="col">filter</th>
              <th scope="col">name</th>
              <th scope="col">class</th>
              {COLUMNS.map(({ key, name, unit }) => (
                <th key={key} scope="col" className="text-right">
                  {name} <span className="unit">{unit}</span>
                </th>
              ))}
              {mayEdit && (
                <th scope="col">
                  <span className="sr-only">more</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {filters.map((filter) => (
              <FilterRow
                key={filter.id}
                filter={filter}
                mayEdit={mayEdit}
                changes={changes}
                onDuplicate={() => {
                  setTexts(filterTextsOf(filter));
                  setCopied(copied + 1);
                }}
              />
            ))}
          </tbody>
        </table>
      </div>
      {mayEdit && <AddFilter key={copied} texts={texts} isOpen={copied > 0} changes={changes} />}
    </section>
  );
}

interface FilterRowProps {
  readonly filter: Filter;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
  readonly onDuplicate: () => void;
}

function FilterRow({ filter, mayEdit, changes, onDuplicate }: FilterRowProps) {
  const notice = useNotice();
  const failed = (error: unknown): void => notice(wordsOf(error), true);
  return (
    <tr className="rule">
      <td>
        <EditableText
          label={`Short name of ${filter.letter}`}
          width={60}
          disabled={!mayEdit}
          shown={<FilterTab letter={filter.letter} filterClass={filter.class} />}
          text={filter.letter}
          onSave={(letter) => changes.filter(filter, { letter: letter.trim() })}
        />
      </td>
      <td>
        <EditableText
          label={`Name of ${filter.letter}`}
          width={190}
          disabled={!mayEdit}
          shown={filter.name}
          text={filter.name}
          onSave={(name) => changes.filter(filter, { name: name.trim() })}
        />
      </td>
      <td className="whitespace-nowrap">
        <Choice
          label={`Class of ${filter.letter}`}
          value={filter.class}
          options={FILTER_CLASSES}
          disabled={!mayEdit}
          onChoose={(chosen) => void changes.filter(filter, { class: chosen as Filter['class'] }).catch(failed)}
        />
      </td>
      {COLUMNS.map(({ key, name }) => (
        <td key={key} className="text-right">
          <EditableText
            label={`${filter.letter} ${name}`}
            width={70}
            disabled={!mayEdit}
            shown={String(filter[key])}
            text={String(filter[key])}
            onSave={async (text) => changes.filter(filter, { [key]: typedNumber(text, name) })}
          />
        </td>
      ))}
      {mayEdit && (
        <td className="whitespace-nowrap text-right text-soft">
          <button
            type="button"
            className="word-link cursor-pointer"
            aria-label={`Duplicate ${filter.letter}`}
            onClick={onDuplicate}
          >
            duplicate
          </button>{' '}
          <button
            type="button"
            className="word-link ml-2 cursor-pointer"
            aria-label={`Retire ${filter.letter}`}
            onClick={() =>
              void changes
                .retireFilter(filter)
                .then(() => notice(`${filter.letter} is retired; bring it back at the end of this page`))
                .catch(failed)
            }
          >
            retire
          </button>
        </td>
      )}
    </tr>
  );
}
