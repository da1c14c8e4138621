import { readReview } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call, wordsOf } from '../../app/api.ts';
import { LedgerHead } from '../../app/LedgerHead.tsx';
import { useNights } from '../../app/period.ts';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { dayOf, hours, percent } from '../../words/format.ts';
import { reviewSum } from './view-model.ts';

/** Tonight and the thirty nights before it. */
const USUAL_NIGHTS = 31;

/** What was gathered between two nights, over all projects. */
export default function ReviewPage() {
  const nights = useNights(USUAL_NIGHTS, 'tonight');
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['ledger', 'review', nights],
    queryFn: ({ signal }) => call(readReview, { query: nights!, signal }),
    enabled: nights !== null,
    placeholderData: (previous) => previous,
  });
  return (
    <>
      <LedgerHead title="Review" nights={nights} />
      {error ? (
        <Failure words={wordsOf(error)} onRetry={() => void refetch()} />
      ) : isPending ? (
        <Loading what="the review" rows={8} />
      ) : data.projects.length === 0 ? (
        <Empty title="Nothing was exposed in these nights.">
          {nights && `From ${dayOf(nights.from)} to ${dayOf(nights.to)}. Choose other nights above.`}
        </Empty>
      ) : (
        <ReviewTable rows={data.projects} />
      )}
    </>
  );
}

type Rows = Parameters<typeof reviewSum>[0];

function ReviewTable({ rows }: { rows: Rows }) {
  const sum = reviewSum(rows);
  return (
    <>
      <p className="mt-3 font-serif text-lg">
        {hours(sum.acceptedHours)}
        <span className="unit">h</span> accepted in {sum.accepted} exposures
        {sum.keptShare !== null && `; ${percent(sum.keptShare)} of what was judged was kept`}
      </p>
      <table className="mt-3 w-full">
        <thead>
          <tr className="rule">
            <th scope="col">project</th>
            <th scope="col">owner</th>
            <th scope="col" className="text-right">
              nights
            </th>
            <th scope="col" className="text-right">
              accepted
            </th>
            <th scope="col" className="text-right">
              hours
            </th>
            <th scope="col" className="text-right">
              undecided
            </th>
            <th scope="col" className="text-right">
              rejected
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.projectId} className="rule">
              <td>
                <Link className="word-link font-serif text-base" to={`/projects/${row.projectId}`}>
                  {row.projectName}
                </Link>
              </td>
              <td className="text-soft">{row.ownerName}</td>
              <td className="text-right">{row.nights}</td>
              <td className="text-right">{row.accepted}</td>
              <td className="text-right">
                {hours(row.acceptedHours)}
                <span className="unit">h</span>
              </td>
              <td className="text-right">{row.undecided}</td>
              <td className="text-right">{row.rejected}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
