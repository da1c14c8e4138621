import { addProject } from '@meridiem/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import type { Composition, SentPanel } from '../view-model.ts';

interface BeginProjectProps {
  readonly composition: Composition;
  readonly rigId: string;
  readonly panels: readonly SentPanel[];
  readonly compositionText: string;
}

/** A new project's draft with the panels as framed. */
export function BeginProject({ composition, rigId, panels, compositionText }: BeginProjectProps) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const begin = async (): Promise<void> => {
    const given = name.trim() || composition.targetName;
    if (given === '') return setProblem('Give the project a name');
    try {
      const { id } = await call(addProject, {
        body: {
          name: given,
          rigId,
          targetName: composition.targetName || given,
          raText: `${composition.subject.raDeg}°`,
          decText: String(composition.subject.decDeg),
          positionAngleDeg: composition.positionAngleDeg % 360,
          panels: [...panels],
          composition: compositionText,
        },
      });
      void navigate(`/projects/${id}`);
    } catch (failure) {
      setProblem(wordsOf(failure));
    }
  };
  return (
    <form
      aria-label="Begin a project"
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <label className="grid gap-0.5">
        Name of the project
        <input
          value={name}
          placeholder={composition.targetName}
          onChange={(event) => {
            setName(event.target.value);
            setProblem(null);
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="text-sm text-signal">
          {problem}
        </p>
      )}
      <button type="submit" className="act act-strong mt-2">
        Begin a draft with {panels.length === 1 ? 'this panel' : `these ${panels.length} panels`}
      </button>
    </form>
  );
}
