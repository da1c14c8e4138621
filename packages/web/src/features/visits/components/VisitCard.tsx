import type { MovedHours, Observatory, Visit } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { longDayOf } from '../../../words/format.ts';
import type { VisitActs } from '../queries.ts';
import type { VisitStage } from '../view-model.ts';
import { JobLine } from './JobLine.tsx';
import { JobForm } from './JobForm.tsx';
import { DateField } from '../../../ui/DateField.tsx';

interface VisitCardProps {
  readonly visit: Visit;
  readonly stage: VisitStage;
  readonly hands: readonly { readonly personId: string; readonly name: string }[];
  readonly effects: ReadonlyMap<string, MovedHours>;
  readonly observatory: Observatory;
  readonly hasHands: boolean;
  readonly acts: VisitActs;
}

/** One visit with its work. */
export function VisitCard({ visit, stage, hands, effects, observatory, hasHands, acts }: VisitCardProps) {
  const [isAdding, setAdding] = useState(false);
  const mayEdit = hasHands && stage !== 'over';
  return (
    <section
      aria-label={`Visit before the night of ${longDayOf(visit.nightDate)}`}
      className={`mt-6 border-l-2 pl-3 ${stage === 'overdue' ? 'border-signal' : stage === 'over' ? 'border-hairline' : 'border-brass'}`}
    >
      <h3 className="font-serif text-lg">{longDayOf(visit.nightDate)}</h3>
      {stage === 'overdue' && (
        <p className="text-signal">This day is over. Say of each piece of work whether it was done.</p>
      )}
      {visit.words && <p className="italic">{visit.words}</p>}
      {mayEdit ? (
        <VisitFields visit={visit} hands={hands} acts={acts} />
      ) : (
        <p className="text-soft">{visit.goesName ? `${visit.goesName} goes` : 'No one was named to go'}</p>
      )}
      <ul aria-label="Work" className="mt-2">
        {visit.jobs.map((job) => (
          <JobLine
            key={job.id}
            job={job}
            since={visit.nightDate}
            moved={effects.get(job.id) ?? []}
            observatory={observatory}
            hasHands={hasHands}
            acts={acts}
          />
        ))}
      </ul>
      {visit.jobs.length === 0 && <p className="text-soft">Nothing to do yet.</p>}
      {mayEdit && !isAdding && (
        <button type="button" className="act mt-2" onClick={() => setAdding(true)}>
          Add work
        </button>
      )}
      {isAdding && (
        <JobForm
          observatory={observatory}
          onAdd={(job) => acts.addJob(visit.id, job)}
          onClose={() => setAdding(false)}
        />
      )}
    </section>
  );
}

/** Day and person, saved as they are chosen. */
function VisitFields({ visit, hands, acts }: Pick<VisitCardProps, 'visit' | 'hands' | 'acts'>) {
  const notice = useNotice();
  const edit = (fields: Omit<Parameters<VisitActs['edit']>[1], 'version'>, done?: string): void =>
    void acts.edit(visit.id, { version: visit.version, ...fields }).then(
      () => done && notice(done),
      (error: unknown) => notice(wordsOf(error), true),
    );
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-4">
      <label>
        Before the night of{' '}
        <DateField whenLeft value={visit.nightDate} onChange={(nightDate) => nightDate && edit({ nightDate })} />
      </label>
      <label>
        Who goes{' '}
        <select value={visit.goesId ?? ''} onChange={({ target: { value } }) => edit({ goesId: value || null })}>
          <option value="">no one yet</option>
          {hands.map(({ personId, name }) => (
            <option key={personId} value={personId}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="act" onClick={() => edit({ cancelled: true }, 'Visit cancelled')}>
        Cancel visit
      </button>
    </div>
  );
}
