import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { Advice } from './components/Advice.tsx';
import { PlanVisit } from './components/PlanVisit.tsx';
import { VisitCard } from './components/VisitCard.tsx';
import { useEquipment, useVisitActs, useVisitEffects, useVisits } from './queries.ts';
import { stageOf } from './view-model.ts';

/** Visits to the site: what is to be done there, by whom, and what it will unlock. */
export default function VisitsPage() {
  const { data, error, isPending, refetch } = useVisits();
  const { data: observatory } = useEquipment();
  const effects = useVisitEffects();
  const acts = useVisitActs();
  const { role } = useAccount();
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  if (isPending || !observatory) return <Loading what="the visits" rows={6} />;
  const hasHands = role === 'helper' || role === 'coordinator';
  const { tonight } = observatory;
  const staged = data.visits.map((visit) => ({ visit, stage: stageOf(visit, tonight) }));
  const open = staged.filter(({ stage }) => stage !== 'over');
  const over = staged.filter(({ stage }) => stage === 'over').reverse();
  const card = ({ visit, stage }: (typeof staged)[number]) => (
    <VisitCard
      key={visit.id}
      visit={visit}
      stage={stage}
      hands={data.hands}
      effects={effects}
      observatory={observatory}
      hasHands={hasHands}
      acts={acts}
    />
  );
  return (
    <>
      <h1 className="text-2xl">Visits</h1>
      <p className="mt-1 max-w-[75ch] text-soft">
        What needs hands on site. The season reckons with planned visits; a night goes by what was measured last, until
        the work is confirmed here.
      </p>
      {open.length === 0 && (
        <Empty title="No visit is planned.">
          {hasHands ? 'Plan one below.' : 'Helpers and coordinators plan visits.'}
        </Empty>
      )}
      {open.map(card)}
      <Advice observatory={observatory} visits={data.visits} hasHands={hasHands} acts={acts} />
      {hasHands && <PlanVisit hands={data.hands} tonight={tonight} acts={acts} />}
      {over.length > 0 && <h2 className="mt-10 text-xl">Made</h2>}
      {over.map(card)}
    </>
  );
}
