import type { NewVisitJob, Observatory } from '@meridiem/contract';
import { VISIT_WORK } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { exchangeable, typedDegrees, WORK_WORDS } from '../view-model.ts';

interface JobFormProps {
  readonly observatory: Observatory;
  readonly onAdd: (job: NewVisitJob) => Promise<unknown>;
  readonly onClose: () => void;
}

/** Work added to a visit. */
export function JobForm({ observatory, onAdd, onClose }: JobFormProps) {
  const [written, setWritten] = useState({ rigId: observatory.rigs[0]?.id ?? '', work: 'angle' as NewVisitJob['work'], angle: '', fitsId: '', removesId: '', words: '' }); // prettier-ignore
  const [problem, setProblem] = useState<{ field: string; words: string } | null>(null);
  const rig = observatory.rigs.find(({ id }) => id === written.rigId);
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const write = (fields: Partial<typeof written>): void => {
    setWritten((now) => ({ ...now, ...fields }));
    setProblem(null);
  };
  const send = async (): Promise<void> => {
    const { rigId, work, words, fitsId, removesId } = written;
    const skyAngleDeg = work === 'angle' ? typedDegrees(written.angle) : null;
    if (work === 'angle' && skyAngleDeg === null)
      return setProblem({ field: 'skyAngleDeg', words: 'Write degrees between 0 and 360, like 118.4' });
    const isExchange = work === 'filter';
    if (isExchange && !fitsId) return setProblem({ field: 'fitsId', words: 'Choose the filter to put in' });
    try {
      await onAdd({ rigId, work, skyAngleDeg, words, fitsId: isExchange ? fitsId : null, removesId: (isExchange && removesId) || null }); // prettier-ignore
      onClose();
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? '') : '', words: wordsOf(error) });
    }
  };
  const filters = rig ? exchangeable(observatory, rig) : { fits: [], removes: [] };
  return (
    <form
      aria-label="Add work"
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Labelled label="Rig" error={of('rigId')}>
        <select
          value={written.rigId}
          onChange={(event) => write({ rigId: event.target.value, fitsId: '', removesId: '' })}
        >
          {observatory.rigs.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Work" error={of('work')}>
        <select value={written.work} onChange={(event) => write({ work: event.target.value as NewVisitJob['work'] })}>
          {VISIT_WORK.map((work) => (
            <option key={work} value={work}>
              {WORK_WORDS[work]}
            </option>
          ))}
        </select>
      </Labelled>
      {written.work === 'angle' && (
        <Labelled label="To the position angle, degrees" error={of('skyAngleDeg')}>
          <input
            className="w-24 text-right"
            value={written.angle}
            onChange={(event) => write({ angle: event.target.value })}
          />
        </Labelled>
      )}
      {written.work === 'filter' && (
        <>
          <Labelled label="Put in" error={of('fitsId')}>
            <select value={written.fitsId} onChange={(event) => write({ fitsId: event.target.value })}>
              <option value="">choose</option>
              {filters.fits.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled label="In the place of" error={of('removesId')}>
            <select value={written.removesId} onChange={(event) => write({ removesId: event.target.value })}>
              <option value="">a free place</option>
              {filters.removes.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
        </>
      )}
      <Labelled label="Remark" error={of('words')}>
        <input value={written.words} maxLength={500} onChange={(event) => write({ words: event.target.value })} />
      </Labelled>
      <button type="submit" className="act act-strong">
        Add to the visit
      </button>
      <button type="button" className="act" onClick={onClose}>
        Cancel
      </button>
      {problem && !['rigId', 'work', 'skyAngleDeg', 'fitsId', 'removesId', 'words'].includes(problem.field) && (
        <span role="alert" className="text-signal">
          {problem.words}
        </span>
      )}
    </form>
  );
}
