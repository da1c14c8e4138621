import type { Observatory, Visit, VisitAdvice } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { WorkEnded, WorkUnderWay } from '../../../ui/WorkUnderWay.tsx';
import { dayOf, hours } from '../../../words/format.ts';
import type { VisitActs } from '../queries.ts';
import { useVisitAdvice } from '../queries.ts';
import { hoursWords, plannedJob, workWords } from '../view-model.ts';

interface AdviceProps {
  readonly observatory: Observatory;
  readonly visits: readonly Visit[];
  readonly hasHands: boolean;
  readonly acts: VisitActs;
}

/** Suggested visits, tried on the nights ahead when asked for. */
export function Advice({ observatory, visits, hasHands, acts }: AdviceProps) {
  const { data, job, isUnasked, isWorking, share, stop, ask } = useVisitAdvice();
  const advice = data?.advice ?? null;
  return (
    <section aria-label="Suggested visits" className="mt-10">
      <h2 className="text-xl">Suggested visits</h2>
      {isUnasked && !isWorking && hasHands && (
        <button type="button" className="act mt-2" onClick={ask}>
          Work out which visits would help
        </button>
      )}
      {isUnasked && !hasHands && <p className="text-soft">Not worked out yet.</p>}
      {isWorking && data !== undefined && (
        <WorkUnderWay words="Trying visits on the nights ahead" measured="Visits tried" share={share} onStop={stop} />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again="Work out visits" onAgain={ask} />}
      {job?.state === 'failed' && (
        <WorkEnded words={job.failure ?? 'It failed.'} again="Work out visits" onAgain={ask} />
      )}
      {advice && <Advised advice={advice} observatory={observatory} visits={visits} hasHands={hasHands} acts={acts} />}
    </section>
  );
}

function Advised({ advice, observatory, visits, hasHands, acts }: AdviceProps & { advice: VisitAdvice }) {
  const notice = useNotice();
  const plan = async ({ nightDate, jobs }: VisitAdvice['visits'][number]): Promise<void> => {
    const known = visits.find((visit) => visit.nightDate === nightDate);
    try {
      if (known) for (const job of jobs) await acts.addJob(known.id, plannedJob(job));
      else await acts.add({ nightDate, goesId: null, words: '', jobs: jobs.map(plannedJob) });
      notice('Visit planned');
    } catch (error) {
      notice(wordsOf(error), true);
    }
  };
  if (advice.visits.length === 0)
    return (
      <p className="mt-1 max-w-[75ch]">
        No turn of a camera and no exchange of filters gains the {hours(advice.costHours)} weighted hours that a visit
        must gain.
      </p>
    );
  return (
    <>
      {advice.visits.map((visit) => (
        <div key={visit.nightDate} className="mt-2 border-l-2 border-hairline pl-3">
          <p className="font-serif">
            Before the night of {dayOf(visit.nightDate)}
            {visit.isPlanned ? ', with the visit that is planned' : ''}
          </p>
          <ul aria-label={`Suggested work before ${dayOf(visit.nightDate)}`}>
            {visit.jobs.map((job) => (
              <li key={`${job.rigId} ${job.skyAngleDeg} ${job.fitsId}`}>
                <span className="font-semibold">{observatory.rigs.find(({ id }) => id === job.rigId)?.name}</span>:{' '}
                {workWords(plannedJob(job), observatory)}.{' '}
                <span className="text-soft">
                  Gains the season {hours(job.gainHours)} weighted hours
                  {job.hours.length > 0 && `; ${hoursWords(job.hours)}`}.
                </span>
              </li>
            ))}
          </ul>
          {hasHands && (
            <button type="button" className="act mt-1" onClick={() => void plan(visit)}>
              {visit.isPlanned ? 'Add to the visit' : 'Plan this visit'}
            </button>
          )}
        </div>
      ))}
      <p className="mt-2 max-w-[75ch] text-soft">
        A visit must gain {hours(advice.costHours)} weighted hours and lie {advice.apartNights} nights from the next;
        hours are those expected under the odds of clear nights.
      </p>
    </>
  );
}
