import type { Rig } from '@meridiem/contract';
import { dateOf } from '../../../words/format.ts';
import { useGearChanges } from '../queries.ts';
import { gearLines } from '../gear-words.ts';

/** What exposures were like before and after each change of a rig's optics or camera. */
export function GearChanges({ rig, zone }: { readonly rig: Rig; readonly zone: string }) {
  const { data } = useGearChanges(rig.id);
  if (!data || data.changes.length === 0) return null;
  return (
    <div className="mt-2">
      {data.changes.map(({ sinceUtcMs, words, before, after }) => (
        <section key={sinceUtcMs} aria-label={`Changed on ${dateOf(sinceUtcMs, zone)}`} className="mt-2">
          <p>
            {dateOf(sinceUtcMs, zone)}: {words}
          </p>
          <table className="mt-1">
            <thead>
              <tr className="text-left text-sm text-soft">
                <th scope="col" className="pr-6 font-normal">
                  median of exposures next to it
                </th>
                <th scope="col" className="pr-6 text-right font-normal">
                  before
                </th>
                <th scope="col" className="text-right font-normal">
                  after
                </th>
              </tr>
            </thead>
            <tbody>
              {gearLines(before, after).map(({ name, was, is }) => (
                <tr key={name} className="rule">
                  <th scope="row" className="pr-6 text-left font-normal">
                    {name}
                  </th>
                  <td className="pr-6 text-right">{was}</td>
                  <td className="text-right">{is}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}
