import type { LedgerRow } from '@meridiem/contract';
import { promoteTryOut } from '@meridiem/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';

/** Exposures that belong to no project become one: offered only where all the chosen ones are such. */
export function Promote({ rows }: { rows: readonly LedgerRow[] }) {
  const navigate = useNavigate();
  const notice = useNotice();
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  if (rows.length === 0 || rows.some(({ projectId }) => projectId !== null)) return null;
  const promote = async (given: string): Promise<void> => {
    if (given.trim() === '') return setProblem('Give the project a name');
    try {
      const body = { exposureIds: rows.map(({ id }) => id), name: given.trim() };
      const { id, credited } = await call(promoteTryOut, { body });
      notice(`A draft with ${credited} of ${rows.length} exposures credited; z undoes it`);
      void navigate(`/projects/${id}`);
    } catch (failure) {
      setProblem(wordsOf(failure));
    }
  };
  if (name === null)
    return (
      <button type="button" className="act" onClick={() => setName('')}>
        Begin a project from {rows.length === 1 ? 'it' : 'these'}
      </button>
    );
  return (
    <form
      aria-label="Begin a project from exposures"
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void promote(name);
      }}
    >
      <label>
        named{' '}
        <input
          autoFocus
          value={name}
          onChange={(event) => {
            setName(event.target.value);
            setProblem(null);
          }}
        />
      </label>
      <button type="submit" className="act act-strong">
        Begin
      </button>
      <button type="button" className="act" onClick={() => setName(null)}>
        Cancel
      </button>
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}
