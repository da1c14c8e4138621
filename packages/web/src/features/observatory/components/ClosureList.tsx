import type { Observatory } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { dayOf } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { DateField } from '../../../ui/DateField.tsx';

interface ClosureListProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Nights on which nothing is exposed: no season plans anything in them. */
export function ClosureList({ observatory, mayEdit, changes }: ClosureListProps) {
  const { closures, rigs } = observatory;
  const notice = useNotice();
  const rigName = (rigId: string | null): string => rigs.find(({ id }) => id === rigId)?.name ?? 'everything';
  return (
    <section aria-label="Closed nights">
      <h2 className="text-xl">Closed nights</h2>
      {closures.length === 0 && <p className="text-soft">No night ahead is closed.</p>}
      <ul className="mt-1">
        {closures.map(({ id, rigId, firstNight, lastNight, reason }) => (
          <li key={id} className="rule flex flex-wrap items-baseline gap-x-3 py-1">
            <span>{firstNight === lastNight ? dayOf(firstNight) : `${dayOf(firstNight)} – ${dayOf(lastNight)}`}</span>
            <span className="text-soft">{rigName(rigId)}</span>
            <span>{reason}</span>
            {mayEdit && (
              <button
                type="button"
                className="act ml-auto"
                onClick={() => void changes.open(id).catch((error: unknown) => notice(wordsOf(error), true))}
              >
                Open again
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && <CloseNights observatory={observatory} changes={changes} />}
    </section>
  );
}

function CloseNights({ observatory: { rigs, tonight }, changes }: Omit<ClosureListProps, 'mayEdit'>) {
  const unwritten = { firstNight: tonight, lastNight: tonight, rigId: '', reason: '' };
  const [written, setWritten] = useState(unwritten);
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const write = (fields: Partial<typeof unwritten>): void => setWritten((now) => ({ ...now, ...fields }));
  const close = async (): Promise<void> => {
    try {
      await changes.close({ ...written, rigId: written.rigId || null });
      setWritten(unwritten);
      setProblem(null);
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? null) : null, words: wordsOf(error) });
    }
  };
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void close();
      }}
    >
      <Labelled label="First night" error={of('firstNight')}>
        <DateField near={tonight} value={written.firstNight} onChange={(firstNight) => write({ firstNight })} />
      </Labelled>
      <Labelled label="Last night" error={of('lastNight')}>
        <DateField near={tonight} value={written.lastNight} onChange={(lastNight) => write({ lastNight })} />
      </Labelled>
      <Labelled label="What is closed" error={of('rigId')}>
        <select value={written.rigId} onChange={(event) => write({ rigId: event.target.value })}>
          <option value="">everything</option>
          {rigs.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Why" error={of('reason')}>
        <input value={written.reason} onChange={(event) => write({ reason: event.target.value })} />
      </Labelled>
      <button type="submit" className="act act-strong">
        Close these nights
      </button>
      {problem && !['firstNight', 'lastNight', 'rigId', 'reason'].includes(problem.field ?? '') && (
        <span role="alert" className="text-signal">
          {problem.words}
        </span>
      )}
    </form>
  );
}
