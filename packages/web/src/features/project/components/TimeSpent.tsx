import { readProjectTime } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { hours, percent } from '../../../words/format.ts';
import { spentLines } from '../view-model.ts';
import { StillNeeded } from './StillNeeded.tsx';

/** Nights this project alone still needs, and where the time went that it had. */
export function TimeSpent({ projectId }: { projectId: string }) {
  const { data: time } = useQuery({
    queryKey: ['ledger', 'project-time', projectId],
    queryFn: ({ signal }) => call(readProjectTime, { params: { id: projectId }, signal }),
  });
  const lines = time ? spentLines(time) : [];
  const longest = Math.max(...lines.map((line) => line.hours), 0.1);
  return (
    <section aria-label="Time" className="mt-10 grid gap-10 md:grid-cols-2">
      <StillNeeded projectId={projectId} />
      <div>
        <h2 className="text-xl">
          Where the time went{' '}
          {time && time.openNights > 0 && (
            <span className="text-base text-soft">
              <Link className="word-link" to="/time">
                {time.openNights} {time.openNights === 1 ? 'night' : 'nights'} not closed yet
              </Link>
            </span>
          )}
        </h2>
        {time && lines.length === 0 && <p className="mt-2 text-soft">Nothing has been exposed for this project yet.</p>}
        {time && lines.length > 0 && (
          <>
            <table className="mt-2 w-full">
              <tbody>
                {lines.map(({ words, hours: spent, look }) => (
                  <tr key={words} className="rule">
                    <th scope="row" className="w-44 font-normal normal-case">
                      {words}
                    </th>
                    <td className="w-16 text-right">
                      {hours(spent)}
                      <span className="unit">h</span>
                    </td>
                    <td className="align-middle">
                      <span
                        className={`block h-2.5 ${look}`}
                        style={{ width: `${(100 * spent) / longest}%` }}
                        aria-hidden
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="mt-2 text-soft">
              {time.acceptedHours > 0 &&
                `Accepted exposures equal ${hours(time.effectiveHours)} h at the target’s best sky (${percent(time.effectiveHours / time.acceptedHours)}). `}
              Charged in closed nights: {hours(time.chargedHours)} h.
            </p>
          </>
        )}
      </div>
    </section>
  );
}
