import type { FramedPanel, Reframing } from '@meridiem/contract';
import { listProjects, previewReframing, readProject, reframe } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { hours } from '../../../words/format.ts';

interface FrameAnewProps {
  readonly rigId: string;
  readonly panels: readonly FramedPanel[];
  readonly compositionText: string;
  /** Chosen from the start: the project that this composition was opened from. */
  readonly projectId: string;
}

/** Its panels become these, or it keeps its own and these are added. */
type Sending = 'instead' | 'added';

const FATES = {
  stays: 'stays',
  moves: 'moves',
  new: 'is new, with the goals of the first',
  dropped: 'is dropped; its exposures stay in the ledger',
} as const;

/** The composition for a project that is there already: what would become of its panels and credit first, then the deed. */
export function Reframe({ rigId, panels, compositionText, projectId: given }: FrameAnewProps) {
  const navigate = useNavigate();
  const notice = useNotice();
  const { data } = useQuery({ queryKey: ['projects'], queryFn: ({ signal }) => call(listProjects, { signal }) });
  const own = (data?.projects ?? []).filter(
    (project) => project.rigId === rigId && project.mayEdit && !project.moves && project.state !== 'retired',
  );
  const [projectId, setProjectId] = useState(given);
  const [sending, setSending] = useState<Sending>('instead');
  const [looked, setLooked] = useState<{ reframing: Reframing; panels: FramedPanel[]; key: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const key = JSON.stringify([projectId, sending, panels]);
  const fail = (failure: unknown): void => setProblem(wordsOf(failure));
  const look = async (id: string, how: Sending): Promise<void> => {
    setProjectId(id);
    setSending(how);
    setProblem(null);
    setLooked(null);
    if (id === '') return;
    const own = how === 'added' ? placed((await call(readProject, { params: { id } })).panels) : [];
    const wanted = [...own, ...panels];
    const reframing = await call(previewReframing, { params: { id }, body: { panels: wanted } });
    setLooked({ reframing, panels: wanted, key: JSON.stringify([id, how, panels]) });
  };
  const write = (doubtful: 'keep' | 'lose'): void =>
    void call(reframe, {
      params: { id: projectId },
      body: { panels: looked!.panels, doubtful, ...(sending === 'instead' ? { composition: compositionText } : {}) },
    }).then(() => {
      notice('Reframed; z undoes it');
      void navigate(`/projects/${projectId}`);
    }, fail);
  if (own.length === 0) return null;
  return (
    <section aria-label="Reframe a project" className="mt-4">
      <label className="grid gap-0.5">
        Or apply it to a project
        <select value={projectId} onChange={(event) => void look(event.target.value, sending).catch(fail)}>
          <option value="">choose a project</option>
          {own.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {projectId !== '' && (
        <fieldset className="mt-2">
          <legend className="sr-only">What happens to its panels</legend>
          {(['instead', 'added'] as const).map((how) => (
            <label key={how} className="block">
              <input
                type="radio"
                name="sending"
                checked={sending === how}
                onChange={() => void look(projectId, how).catch(fail)}
              />{' '}
              {how === 'instead' ? 'its panels become these' : 'these are added to its own'}
            </label>
          ))}
        </fieldset>
      )}
      {projectId !== '' && looked?.key !== key && (
        <button type="button" className="act mt-2" onClick={() => void look(projectId, sending).catch(fail)}>
          {looked ? 'The frame has moved: check again' : 'Check what would change'}
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

/** Panels that have a place keep it. */
const placed = (
  panels: readonly { raDeg: number | null; decDeg: number | null; positionAngleDeg: number }[],
): FramedPanel[] =>
  panels.flatMap(({ raDeg, decDeg, positionAngleDeg }) =>
    raDeg === null || decDeg === null ? [] : [{ raDeg, decDeg, positionAngleDeg }],
  );

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
      <ul className="mt-2" aria-label="What would change">
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
          {ask.exposures > 0 ? 'Reframe and keep the doubtful' : 'Reframe'}
        </button>
        {ask.exposures > 0 && (
          <button type="button" className="act" onClick={() => onWrite('lose')}>
            Reframe without them
          </button>
        )}
      </p>
    </>
  );
}
