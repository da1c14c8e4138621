import type { Filter } from '@meridiem/contract';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { ObservatoryChanges } from '../queries.ts';
import { typedNumber } from '../../../words/typed.ts';

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
export const FilterTable = ({ filters, mayEdit, changes }: FilterTableProps) => (
  <section aria-label="Filters" className="mt-10">
    <h2 className="text-xl">Filters</h2>
    <p className="text-soft">
      What moon and twilight do to each filter follows from these numbers; the moonlight factor is an estimate you may
      improve.
    </p>
    <table className="mt-1 w-full">
      <thead>
        <tr className="rule">
          <th scope="col">filter</th>
          <th scope="col">name</th>
          {COLUMNS.map(({ key, name, unit }) => (
            <th key={key} scope="col" className="text-right">
              {name} <span className="unit">{unit}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {filters.map((filter) => (
          <tr key={filter.id} className="rule">
            <td>
              <FilterTab letter={filter.letter} filterClass={filter.class} />
            </td>
            <td>{filter.name}</td>
            {COLUMNS.map(({ key, name }) => (
              <td key={key} className="text-right">
                <EditableText
                  label={`${filter.letter} ${name}`}
                  width={70}
                  disabled={!mayEdit}
                  shown={String(filter[key])}
                  text={String(filter[key])}
                  onSave={(text) => changes.filter(filter, { [key]: typedNumber(text, name) })}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </section>
);
