import type { Standing } from '@meridiem/contract';
import { DateTime } from 'luxon';
import { hours } from '../../../words/format.ts';
import { monthRows } from '../view-model.ts';

/** Charged of entitled hours, month by month and member by member. */
export function Months({ standing }: { standing: Standing }) {
  const members = [...new Map(standing.rows.map(({ memberId, memberName }) => [memberId, memberName]))];
  const rows = monthRows(standing, members.map(([id]) => id)); // prettier-ignore
  if (rows.length === 0) return null;
  return (
    <section aria-label="Months" className="mt-10">
      <h2 className="text-xl">Months</h2>
      <p className="text-soft">Charged of entitled hours, all rigs and skies together.</p>
      <div className="overflow-x-auto">
        <table className="mt-1">
          <thead>
            <tr className="rule">
              <th scope="col">month</th>
              {members.map(([id, name]) => (
                <th key={id} scope="col" className="text-right">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ month, cells }) => (
              <tr key={month} className="rule">
                <th scope="row">{DateTime.fromISO(`${month}-01`).toFormat('LLL yyyy')}</th>
                {cells.map(({ memberId, entitledHours, chargedHours }) => (
                  <td key={memberId} className="whitespace-nowrap pl-6 text-right">
                    {hours(chargedHours)} <span className="text-soft">of {hours(entitledHours)}</span>
                    <span className="unit">h</span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
