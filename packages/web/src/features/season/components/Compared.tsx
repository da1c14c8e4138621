import type { Season } from '@meridiem/contract';
import { Link } from 'react-router';
import { comparedRows, moreWords, wholeWords } from '../what-if.ts';

/** The season as it is and as it would be, project by project. */
export function Compared({ now, then }: { now: Season; then: Season }) {
  return (
    <section aria-label="Side by side" className="mt-6">
      <h2 className="text-xl">Side by side</h2>
      <p className="max-w-[75ch] font-serif text-lg">{wholeWords(now, then)}</p>
      <div className="overflow-x-auto">
        <table className="mt-2 w-full max-w-5xl">
          <thead>
            <tr className="rule">
              <th scope="col">project</th>
              <th scope="col">ends now</th>
              <th scope="col">would end</th>
              <th scope="col" className="text-right">
                expected
              </th>
            </tr>
          </thead>
          <tbody>
            {comparedRows(now, then).map((row) => (
              <tr key={row.projectId} className={`rule ${row.isChanged ? '' : 'text-soft'}`}>
                <td>
                  <Link className="word-link font-serif text-base" to={`/projects/${row.projectId}`}>
                    {row.name}
                  </Link>
                  <span className="ml-2 text-sm text-soft">{row.ownerName}</span>
                </td>
                <td>{row.now}</td>
                <td className={row.isChanged ? 'font-semibold' : ''}>{row.then}</td>
                <td className="whitespace-nowrap text-right">{moreWords(row.hoursMore)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-soft">
        Both seasons begin with the same night, the same seed and the same {then.draws} draws of weather. Differences in
        grey are smaller than the search’s own spread.
      </p>
    </section>
  );
}
