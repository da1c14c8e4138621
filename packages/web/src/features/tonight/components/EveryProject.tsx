import { useState } from 'react';
import { Link } from 'react-router';
import { WhyMark } from '../../../why/why-context.tsx';
import { dayOf, nightAfter } from '../../../words/format.ts';
import { longReason, shortReason } from '../../../words/reasons.ts';
import { useStandings } from '../queries.ts';

/** Every project, on this night and the one before: planned and taken, or why not. */
export function EveryProject({ nightDate, zone }: { nightDate: string; zone: string }) {
  const [isOpen, setIsOpen] = useState(false);
  const before = nightAfter(nightDate, -1);
  const { data: here } = useStandings(nightDate, isOpen);
  const { data: last } = useStandings(before, isOpen);
  return (
    <section aria-label="Every project" className="no-print mt-10">
      <h2 className="text-xl">
        <button type="button" className="cursor-pointer" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          Every project, tonight and the night before {isOpen ? '−' : '+'}
        </button>
      </h2>
      {isOpen && !(here && last) && <p className="text-soft">Looking</p>}
      {isOpen && here && last && (
        <table className="mt-2 w-full">
          <thead>
            <tr className="rule">
              <th scope="col">project</th>
              <th scope="col">rig</th>
              <th scope="col">{dayOf(before)}</th>
              <th scope="col">{dayOf(nightDate)}</th>
            </tr>
          </thead>
          <tbody>
            {here.standings.map((standing) => (
              <tr key={standing.projectId} className="rule">
                <td>
                  <Link className="word-link font-serif text-base" to={`/projects/${standing.projectId}`}>
                    {standing.projectName}
                  </Link>{' '}
                  <span className="text-xs text-soft">{standing.ownerName}</span>
                </td>
                <td className="text-soft">{standing.rigName}</td>
                <td>
                  <Standing standing={last.standings.find((one) => one.projectId === standing.projectId)} zone={zone} />
                </td>
                <td>
                  <Standing standing={standing} zone={zone} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

type Row = NonNullable<ReturnType<typeof useStandings>['data']>['standings'][number];

function Standing({ standing, zone }: { standing: Row | undefined; zone: string }) {
  if (!standing) return <span className="text-soft">not yet here</span>;
  const { planned, taken, rejected, reason, projectName } = standing;
  if (planned > 0 || taken > 0)
    return (
      <>
        {planned > 0 && `${planned} planned`}
        {planned > 0 && taken > 0 && ', '}
        {taken > 0 && `${taken} taken`}
        {rejected > 0 && `, ${rejected} rejected`}
      </>
    );
  if (!reason) return <span className="text-soft">no goals</span>;
  return (
    <>
      {shortReason(reason)}
      <WhyMark note={{ title: projectName, paragraphs: [longReason(reason, zone)] }} />
    </>
  );
}
