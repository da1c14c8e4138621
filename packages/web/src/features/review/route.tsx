import { readNightSky, readReview } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { Period } from '../../ui/Period.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { dayOf, hours, percent } from '../../words/format.ts';
import { lastThirty, reviewSum } from './view-model.ts';

/** What was gathered between two nights, over all projects. */
export default function ReviewPage() {
  const [search, change] = useAddress();
  const { data: night } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
  const usual = night ? lastThirty(night.sky.nightDate) : null;
  const from = search.get('from') ?? usual?.from;
  const to = search.get('to') ?? usual?.to;
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['ledger', 'review', from, to],
    queryFn: ({ signal }) => call(readReview, { query: { from: from!, to: to! }, signal }),
    enabled: from !== undefined && to !== undefined,
    placeholderData: (previous) => previous,
  });
  return (
    <>
      <p>
        <Link className="word-link" to="/ledger">
          Ledger
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Review</h1>
        {from && to && <Period from={from} to={to} onChange={change} />}
      </div>
      {error ? (
        <Failure words={wordsOf(error)} onRetry={() => void refetch()} />
      ) : isPending ? (
        <Loading what="the review" rows={8} />
      ) : data.projects.length === 0 ? (
        <Empty title="Nothing was exposed in these nights.">
          {from && to && `From ${dayOf(from)} to ${dayOf(to)}. Choose other nights above.`}
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
