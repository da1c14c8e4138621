import { Link } from 'react-router';
import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { Fairness } from './components/Fairness.tsx';
import { HoursTable } from './components/HoursTable.tsx';
import { Months } from './components/Months.tsx';
import { SharePeriods } from './components/SharePeriods.tsx';
import { Swaps } from './components/Swaps.tsx';
import { useMembers, useShareActs, useStanding, useTonight } from './queries.ts';
import { rigStandings, sharesWords } from './view-model.ts';

/** Who is behind and who is ahead of their share, and what plans make of it. */
export default function StandingPage() {
  const { data: standing, error, isPending, refetch } = useStanding();
  const { data: members } = useMembers();
  const tonight = useTonight();
  const acts = useShareActs();
  const { role } = useAccount();
  if (isPending || !members || !tonight) return <Loading what="the standing" rows={8} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const isCoordinator = role === 'coordinator';
  const youId = members.people.find(({ isYou }) => isYou)!.id;
  return (
    <>
      <h1 className="text-2xl">Standing</h1>
      <p className="mt-1 font-serif text-lg">{sharesWords(standing)}</p>
      <Fairness
        fairness={standing.fairness}
        carryOverNights={standing.carryOverNights}
        mayEdit={isCoordinator}
        acts={acts}
      />
      {rigStandings(standing).map((rig) => (
        <HoursTable key={rig.rigId} rig={rig} fairness={standing.fairness} youId={youId} />
      ))}
      <p className="mt-3 text-soft">
        Hours are weighed as they are charged; they come from{' '}
        <Link className="word-link" to="/time">
          closed nights
        </Link>
        .
      </p>
      <Swaps
        standing={standing}
        people={members.people}
        youId={youId}
        isGuest={role === 'guest'}
        isCoordinator={role === 'coordinator'}
        acts={acts}
      />
      <SharePeriods standing={standing} people={members.people} tonight={tonight} mayEdit={isCoordinator} acts={acts} />
      <Months standing={standing} />
    </>
  );
}
