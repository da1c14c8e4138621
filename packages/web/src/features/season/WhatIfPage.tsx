import type { ProjectRow, WhatIf } from '@meridiem/contract';
import { askWhatIf, listProjects, readStanding, readWhatIf } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { useStoredWork } from '../../app/stored-work.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { WorkEnded, WorkUnderWay } from '../../ui/WorkUnderWay.tsx';
import { Compared } from './components/Compared.tsx';
import { TakeOver } from './components/TakeOver.tsx';
import { TriedChanges } from './components/TriedChanges.tsx';
import { useRigNames, useSeason } from './queries.ts';
import { isNothing, whatIfOf } from './what-if.ts';

/** A season with changes tried on it, beside the real one; nothing of it is written until it is taken over. */
export default function WhatIfPage() {
  const [search, change] = useAddress({ replace: true });
  const whatIf = whatIfOf(search);
  const { role } = useAccount();
  const { data: season, isWorking, share, stop, error } = useSeason();
  const { data: observatory } = useRigNames();
  const { data: projects } = useQuery({
    queryKey: ['projects'],
    queryFn: ({ signal }) => call(listProjects, { signal }),
  });
  const { data: standing } = useQuery({
    queryKey: ['ledger', 'standing'],
    queryFn: ({ signal }) => call(readStanding, { signal }),
  });
  if (error) return <Failure words={wordsOf(error)} onRetry={() => window.location.reload()} />;
  if (!projects || !observatory || !standing) return <Loading what="the projects" rows={8} />;
  const known: readonly ProjectRow[] = projects.projects.filter(({ state }) => state !== 'retired');
  return (
    <>
      <p>
        <Link className="word-link" to="/season">
          Season
        </Link>
      </p>
      <h1 className="text-2xl">What if</h1>
      <p className="max-w-[75ch] text-soft">
        Try changes on a copy of the season. Nothing changes for anyone until you apply it; the address of this page
        holds what you try, so it can be shared.
      </p>
      <TriedChanges
        whatIf={whatIf}
        projects={known}
        rigs={observatory.rigs}
        tonight={observatory.tonight}
        standing={standing}
        change={change}
      />
      {isWorking && (
        <WorkUnderWay words="Planning the season as it is" measured="Season planned" share={share} onStop={stop} />
      )}
      {season?.season && !isNothing(whatIf) && (
        <TriedSeason key={JSON.stringify(whatIf)} whatIf={whatIf} now={season.season}>
          {role === 'coordinator' && <TakeOver whatIf={whatIf} projects={known} change={change} />}
        </TriedSeason>
      )}
    </>
  );
}

interface TriedSeasonProps {
  readonly whatIf: WhatIf;
  readonly now: NonNullable<NonNullable<ReturnType<typeof useSeason>['data']>['season']>;
  readonly children: React.ReactNode;
}

function TriedSeason({ whatIf, now, children }: TriedSeasonProps) {
  const { data, error, job, isUnasked, isWorking, share, stop, ask } = useStoredWork({
    queryKey: ['what-if', whatIf],
    read: (signal) => call(readWhatIf, { body: whatIf, signal }),
    ask: () => call(askWhatIf, { body: whatIf }),
    isThere: ({ season }) => season !== null,
    isAsked: false,
  });
  if (error) return <Failure words={wordsOf(error)} onRetry={ask} />;
  return (
    <>
      {isUnasked && !isWorking && (
        <button type="button" className="act act-strong mt-4" onClick={ask}>
          Plan this season
        </button>
      )}
      {isWorking && data !== undefined && (
        <WorkUnderWay
          words="Planning the season with these changes"
          measured="Season planned"
          share={share}
          onStop={stop}
        />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again="Plan this season" onAgain={ask} />}
      {job?.state === 'failed' && (
        <WorkEnded words={job.failure ?? 'It failed.'} again="Plan this season" onAgain={ask} />
      )}
      {data?.season && (
        <>
          <Compared now={now} then={data.season} />
          {children}
        </>
      )}
    </>
  );
}
