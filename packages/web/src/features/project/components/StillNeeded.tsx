import type { JobShown, Outlook } from '@meridiem/contract';
import { askProjectOutlook, readProjectOutlook, stopJob } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { WorkBar } from '../../../ui/WorkBar.tsx';
import { dayOf, hours, percent } from '../../../words/format.ts';
import { outlookWords } from '../view-model.ts';

/** Nights this project alone still needs: worked out in the background, with progress, to be stopped. */
export function StillNeeded({ projectId }: { projectId: string }) {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const queryKey = ['outlook', projectId];
  const params = { id: projectId };
  const { data } = useQuery({ queryKey, queryFn: ({ signal }) => call(readProjectOutlook, { params, signal }) });
  const fetchAgain = (): Promise<void> => queryClient.invalidateQueries({ queryKey });
  const attempt = (work: Promise<unknown>): void =>
    void work.catch((error: unknown) => notice(wordsOf(error), true)).then(fetchAgain);
  const ask = (): void => attempt(call(askProjectOutlook, { params }));
  const isUnasked = data !== undefined && data.outlook === null && (data.job === null || data.job.state === 'done');
  useEffect(() => {
    if (isUnasked) ask();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each request that nobody has asked for
  }, [isUnasked, projectId]);
  const job = data?.job ?? null;
  // One that has ended, its result forgotten, is about to be asked for again: there is nothing to stop yet.
  const underWay = job && (job.state === 'waiting' || job.state === 'running') ? job : null;
  return (
    <div>
      <h2 className="text-xl">Still needed</h2>
      {data?.outlook && <OutlookNights outlook={data.outlook} />}
      {!data?.outlook && job?.state !== 'stopped' && job?.state !== 'failed' && (
        <Working job={underWay} onStop={() => underWay && attempt(call(stopJob, { params: { id: underWay.id } }))} />
      )}
      {job?.state === 'stopped' && <Again words="Stopped." onAgain={ask} />}
      {job?.state === 'failed' && <Again words={job.failure ?? 'It failed.'} onAgain={ask} />}
    </div>
  );
}

const Working = ({ job, onStop }: { job: JobShown | null; onStop: () => void }) => (
  <div className="mt-2">
    <p className="text-soft">
      Planning the nights ahead{job && job.progress > 0 ? `, ${percent(job.progress)} done` : ''}…
    </p>
    <div className="mt-1 flex items-center gap-4">
      <WorkBar share={job?.progress ?? 0} words="Nights planned" />
      <button type="button" className="act" disabled={!job} onClick={onStop}>
        Stop
      </button>
    </div>
  </div>
);

const Again = ({ words, onAgain }: { words: string; onAgain: () => void }) => (
  <p className="mt-2">
    {words}{' '}
    <button type="button" className="act ml-2" onClick={onAgain}>
      Plan the nights ahead
    </button>
  </p>
);

const OutlookNights = ({ outlook }: { outlook: Outlook }) => (
  <>
    <p className="mt-2 font-serif text-lg">{outlookWords(outlook)}</p>
    <p className="mt-1 text-soft">
      Planned night after night like tonight, as if every night were clear and the rig this project’s own: the least it
      can take.
    </p>
    {outlook.nights.length > 0 && (
      <ol className="mt-2 flex flex-wrap gap-x-5 gap-y-1" aria-label="Nights that could serve">
        {outlook.nights.slice(0, 12).map(({ nightDate, exposingSec }) => (
          <li key={nightDate} className="whitespace-nowrap">
            <Link className="word-link" to={`/nights/${nightDate}`}>
              {dayOf(nightDate)}
            </Link>{' '}
            {hours(exposingSec / 3600)}
            <span className="unit">h</span>
          </li>
        ))}
        {outlook.nights.length > 12 && <li className="text-soft">and {outlook.nights.length - 12} more</li>}
      </ol>
    )}
  </>
);
