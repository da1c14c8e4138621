import type { Consequences } from '@meridiem/contract';
import { askConsequences, readConsequences } from '@meridiem/contract';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkEnded, WorkUnderWay } from '../../../ui/WorkUnderWay.tsx';
import { delayWords, ownEndWords } from '../view-model.ts';

/** Before anybody decides: when the project would end, and whom it would delay. Worked out when asked for. */
export function IfGranted({ projectId }: { projectId: string }) {
  const params = { id: projectId };
  const { data, error, job, isUnasked, isWorking, share, stop, ask } = useStoredWork({
    queryKey: ['consequences', projectId],
    read: (signal) => call(readConsequences, { params, signal }),
    ask: () => call(askConsequences, { params }),
    isThere: ({ consequences }) => consequences !== null,
    isAsked: false,
  });
  // Without a goal there is nothing to compare.
  if (error) return null;
  return (
    <section aria-label="If it is granted" className="mt-4">
      <h2 className="text-xl">If it is granted</h2>
      {data?.consequences && <Found consequences={data.consequences} />}
      {isUnasked && !isWorking && (
        <button type="button" className="act mt-1" onClick={ask}>
          Compare finishing dates with and without it
        </button>
      )}
      {isWorking && (
        <WorkUnderWay
          words="Comparing the season with it and without it"
          measured="Seasons compared"
          share={share}
          onStop={stop}
        />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again="Compare the seasons" onAgain={ask} />}
      {job?.state === 'failed' && (
        <WorkEnded words={job.failure ?? 'It failed.'} again="Compare the seasons" onAgain={ask} />
      )}
    </section>
  );
}

function Found({ consequences }: { consequences: Consequences }) {
  const delayed = consequences.delays.filter(({ isNoticeable }) => isNoticeable);
  return (
    <>
      <p className="mt-1 font-serif text-lg">{ownEndWords(consequences)}</p>
      {delayed.length === 0 ? (
        <p className="text-soft">No noticeable delay for anyone.</p>
      ) : (
        <ul aria-label="Whom it would delay">
          {delayed.map((delay, i) => (
            <li key={delay.projectId ?? i}>
              {delay.projectId ? (
                <Link className="word-link" to={`/projects/${delay.projectId}`}>
                  {delay.name}
                </Link>
              ) : (
                'Another member’s project'
              )}{' '}
              {delayWords(delay)}
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1 text-soft">
        Two seasons of 60 nights, with it and without it, each played out under the same {consequences.draws} draws of
        weather. A delay counts as noticeable where it is more than three seeds of the same season differ by.
      </p>
    </>
  );
}
