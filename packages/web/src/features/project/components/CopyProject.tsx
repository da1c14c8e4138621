import type { Project } from '@meridiem/contract';
import { copyProject } from '@meridiem/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';

/** A draft of one's own made from this project; what was gathered stays here. */
export function CopyProject({ project }: { project: Project }) {
  const navigate = useNavigate();
  const [name, setName] = useState<string | null>(null);
  const [withGoals, setWithGoals] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  if (name === null)
    return (
      <button type="button" className="word-link" onClick={() => setName(`${project.name}, again`)}>
        copy
      </button>
    );
  const copy = async (): Promise<void> => {
    try {
      const { id } = await call(copyProject, { params: { id: project.id }, body: { name: name.trim(), withGoals } });
      void navigate(`/projects/${id}`);
    } catch (error) {
      setProblem(name.trim() === '' ? 'The copy needs a name' : wordsOf(error));
    }
  };
  return (
    <form
      aria-label="Copy this project"
      className="flex flex-wrap items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void copy();
      }}
    >
      <input
        autoFocus
        aria-label="Name of the copy"
        aria-invalid={problem !== null}
        className="w-64"
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label>
        <input type="checkbox" checked={withGoals} onChange={(event) => setWithGoals(event.target.checked)} />{' '}
        <span className="text-soft">with its goals</span>
      </label>
      <button type="submit" className="act">
        Create draft
      </button>
      <button type="button" className="word-link" onClick={() => setName(null)}>
        Cancel
      </button>
      <span className="text-xs text-soft">never with what was gathered</span>
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}
