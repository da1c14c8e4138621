import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import type { VisitActs } from '../queries.ts';
import { DateField } from '../../../ui/DateField.tsx';

interface PlanVisitProps {
  readonly hands: readonly { readonly personId: string; readonly name: string }[];
  readonly tonight: string;
  readonly acts: VisitActs;
}

/** A visit planned by hand; its work is added to it afterwards. */
export function PlanVisit({ hands, tonight, acts }: PlanVisitProps) {
  const [written, setWritten] = useState({ nightDate: '', goesId: '', words: '' });
  const [problem, setProblem] = useState<{ field: string; words: string } | null>(null);
  const notice = useNotice();
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const write = (fields: Partial<typeof written>): void => {
    setWritten((now) => ({ ...now, ...fields }));
    setProblem(null);
  };
  const send = async (): Promise<void> => {
    const { nightDate, goesId, words } = written;
    if (!nightDate) return setProblem({ field: 'nightDate', words: 'Choose a day' });
    try {
      await acts.add({ nightDate, goesId: goesId || null, words, jobs: [] });
      setWritten({ nightDate: '', goesId: '', words: '' });
      notice('Visit planned');
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? '') : '', words: wordsOf(error) });
    }
  };
  return (
    <form
      aria-label="Plan a visit"
      className="mt-10 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Labelled label="A visit on the day of" error={of('nightDate')}>
        <DateField near={tonight} value={written.nightDate} onChange={(nightDate) => write({ nightDate })} />
      </Labelled>
      <Labelled label="Who goes" error={of('goesId')}>
        <select value={written.goesId} onChange={(event) => write({ goesId: event.target.value })}>
          <option value="">no one yet</option>
          {hands.map(({ personId, name }) => (
            <option key={personId} value={personId}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Remark" error={of('words')}>
        <input value={written.words} maxLength={500} onChange={(event) => write({ words: event.target.value })} />
      </Labelled>
      <button type="submit" className="act">
        Plan visit
      </button>
      {problem && !['nightDate', 'goesId', 'words'].includes(problem.field) && (
        <span role="alert" className="text-signal">
          {problem.words}
        </span>
      )}
    </form>
  );
}
