import { askHelps, readHelps } from '@meridiem/contract';
import { call } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkState } from '../../../ui/WorkUnderWay.tsx';
import { helpWords, uselessWords } from '../helps.ts';

/** What would help one project to be finished, worked out when asked for. */
export function WhatHelps({ projectId }: { projectId: string }) {
  const params = { id: projectId };
  const work = useStoredWork({
    queryKey: ['helps', projectId],
    read: (signal) => call(readHelps, { params, signal }),
    ask: () => call(askHelps, { params }),
    isThere: ({ helps }) => helps !== null,
    isAsked: false,
  });
  const { data, isUnasked, isWorking, ask, error } = work;
  if (error) return null;
  const helps = data?.helps ?? null;
  const useless = helps && uselessWords(helps);
  return (
    <>
      {isUnasked && !isWorking && (
        <button type="button" className="act ml-2" onClick={ask}>
          Work out what would help
        </button>
      )}
      <WorkState
        work={work}
        words="Trying one change after another"
        measured="Changes tried"
        again="Work out what would help"
      />
      {helps && (
        <div className="mb-1 ml-4">
          {helps.helps.length === 0 ? (
            <p>None of the changes tried would help.</p>
          ) : (
            <ul aria-label="What would help">
              {helps.helps.map((help) => (
                <li key={`${help.key} ${help.rigName}`}>{helpWords(help, helps)}</li>
              ))}
            </ul>
          )}
          {useless && <p className="text-soft">{useless}</p>}
        </div>
      )}
    </>
  );
}
