import type { ProjectNight } from '@meridiem/contract';
import { readProjectNights } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { dayOf, hours } from '../../../words/format.ts';

const GatheredChart = lazy(() => import('./GatheredChart.tsx'));
/** Newest nights that are listed; the chart has all. */
const LISTED = 8;

/** Night by night: how the hours grew, and what each night brought and lost. */
export function NightsGathered({ projectId }: { projectId: string }) {
  const { data } = useQuery({
    queryKey: ['project', projectId, 'nights'],
    queryFn: ({ signal }) => call(readProjectNights, { params: { id: projectId }, signal }),
  });
  if (!data) return null;
  const { nights } = data;
  return (
    <section aria-label="Nights" className="mt-10">
      <h2 className="text-xl">
        Nights{' '}
        <span className="text-base text-soft">{nights.length === 0 ? 'none yet' : `${nights.length} so far`}</span>
      </h2>
      {nights.length > 0 && (
        <div className="mt-2 grid gap-10 md:grid-cols-[1fr_480px]">
          <Suspense fallback={<div className="h-[240px]" />}>
            <GatheredChart nights={nights} />
          </Suspense>
          <table className="self-start">
            <thead>
              <tr className="rule">
                <th scope="col" className="text-right">
                  no.
                </th>
                <th scope="col">night</th>
                <th scope="col">accepted</th>
                <th scope="col" className="text-right">
                  lost
                </th>
              </tr>
            </thead>
            <tbody>
              {[...nights]
                .reverse()
                .slice(0, LISTED)
                .map((night) => (
                  <NightRow key={night.nightDate} night={night} projectId={projectId} />
                ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

const NightRow = ({ night, projectId }: { night: ProjectNight; projectId: string }) => (
  <tr className="rule">
    <td className="text-right text-soft">{night.number}</td>
    <td className="whitespace-nowrap">
      <Link className="word-link" to={`/ledger?project=${projectId}&night=${night.nightDate}`}>
        {dayOf(night.nightDate)}
      </Link>
    </td>
    <td>
      <span className="flex flex-wrap gap-x-3">
        {night.filters.map(({ filterLetter, filterClass, accepted, acceptedHours }) => (
          <span key={filterLetter} className="whitespace-nowrap">
            <FilterTab letter={filterLetter} filterClass={filterClass} /> {accepted}
            <span className="unit">{hours(acceptedHours)} h</span>
          </span>
        ))}
      </span>
    </td>
    <td className="text-right">{night.filters.reduce((sum, { rejected }) => sum + rejected, 0)}</td>
  </tr>
);
