import type { FramedPanel, Reframing } from '@meridiem/contract';
import { listProjects, previewReframing, reframe } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { hours } from '../../../words/format.ts';

interface FrameAnewProps {
  readonly rigId: string;
  readonly panels: readonly FramedPanel[];
}

const FATES = {
  stays: 'stays',
  moves: 'moves',
  new: 'is new, with the goals of the first',
  dropped: 'is dropped; its exposures stay in the ledger',
} as const;

/** The composition for a project that is there already: what would become of its panels and credit first, then the deed. */
export function FrameAnew({ rigId, panels }: FrameAnewProps) {
  const navigate = useNavigate();
  const notice = useNotice();
  const { data } = useQuery({ queryKey: ['projects'], queryFn: ({ signal }) => call(listProjects, { signal }) });
  const own = (data?.projects ?? []).filter(
    (project) => project.rigId === rigId && project.mayEdit && !project.moves && project.state !== 'retired',
  );
  const [projectId, setProjectId] = useState('');
  const [looked, setLooked] = useState<{ reframing: Reframing; key: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const key = JSON.stringify([projectId, panels]);
  const fail = (failure: unknown): void => setProblem(wordsOf(failure));
  const look = (id: string): void => {
    setProjectId(id);
    setProblem(null);
    if (id === '') return setLooked(null);
    void call(previewReframing, { params: { id }, body: { panels: [...panels] } }).then(
      (reframing) => setLooked({ reframing, key: JSON.stringify([id, panels]) }),
      fail,
    );
  };
  const write = (doubtful: 'keep' | 'lose'): void =>
    void call(reframe, { params: { id: projectId }, body: { panels: [...panels], doubtful } }).then(() => {
      notice('Framed anew; z takes it back');
      void navigate(`/projects/${projectId}`);
    }, fail);
  if (own.length === 0) return null;
  return (
    <section aria-label="Frame a project anew" className="mt-5">
      <label className="grid gap-0.5">
        Or frame a project anew
        <select value={projectId} onChange={(event) => look(event.target.value)}>
          <option value="">choose a project</option>
          {own.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {looked && looked.key !== key && (
        <button type="button" className="act mt-2" onClick={() => look(projectId)}>
          The frame has moved: look again
        </button>
      )}
      {looked && looked.key === key && <Outcome reframing={looked.reframing} onWrite={write} />}
      {problem && (
        <p role="alert" className="text-sm text-signal">
          {problem}
        </p>
      )}
    </section>
  );
}

function Outcome({
  reframing: { panels, keep, ask, lose },
  onWrite,
}: {
  reframing: Reframing;
  onWrite: (doubtful: 'keep' | 'lose') => void;
}) {
  const exposures = ({ exposures: count, hours: length }: { exposures: number; hours: number }): string =>
    `${count} exposures, ${hours(length)} h`;
  return (
    <>
      <ul className="mt-2" aria-label="What would become of it">
        {panels.map(({ name, fate, movedArcmin, turnedDeg }) => (
          <li key={name} className="rule py-1">
            <strong>{name}</strong> {FATES[fate]}
            {fate === 'moves' && movedArcmin !== null ? ` by ${movedArcmin.toFixed(1)}′` : ''}
            {fate === 'moves' && turnedDeg ? `, turned by ${turnedDeg.toFixed(1)}°` : ''}
          </li>
        ))}
        <li className="rule py-1">Keep their credit: {exposures(keep)}</li>
        {ask.exposures > 0 && (
          <li className="rule py-1 text-signal">Cover their panel by half or more, and you decide: {exposures(ask)}</li>
        )}
        {lose.exposures > 0 && (
          <li className="rule py-1 text-signal">Stay in the ledger without credit: {exposures(lose)}</li>
        )}
      </ul>
      <p className="mt-2 flex flex-wrap gap-3">
        <button type="button" className="act act-strong" onClick={() => onWrite('keep')}>
          {ask.exposures > 0 ? 'Frame anew and keep the doubtful' : 'Frame anew'}
        </button>
        {ask.exposures > 0 && (
          <button type="button" className="act" onClick={() => onWrite('lose')}>
            Frame anew without them
          </button>
        )}
      </p>
    </>
  );
}
