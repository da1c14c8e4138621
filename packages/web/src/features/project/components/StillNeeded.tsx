import type { Outlook } from '@meridiem/contract';
import { askProjectOutlook, readProjectOutlook } from '@meridiem/contract';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkEnded, WorkUnderWay } from '../../../ui/WorkUnderWay.tsx';
import { dayOf, hours } from '../../../words/format.ts';
import { outlookWords } from '../view-model.ts';

/** Nights this project alone still needs: worked out in the background, with progress, to be stopped. */
export function StillNeeded({ projectId }: { projectId: string }) {
  const params = { id: projectId };
  const { data, job, isWorking, share, stop, ask } = useStoredWork({
    queryKey: ['outlook', projectId],
    read: (signal) => call(readProjectOutlook, { params, signal }),
    ask: () => call(askProjectOutlook, { params }),
    isThere: ({ outlook }) => outlook !== null,
  });
  return (
    <div>
      <h2 className="text-xl">Still needed</h2>
      {data?.outlook && <OutlookNights outlook={data.outlook} />}
      {isWorking && (
        <WorkUnderWay words="Planning the nights ahead" measured="Nights planned" share={share} onStop={stop} />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again="Plan the nights ahead" onAgain={ask} />}
      {job?.state === 'failed' && (
        <WorkEnded words={job.failure ?? 'It failed.'} again="Plan the nights ahead" onAgain={ask} />
      )}
    </div>
  );
}

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
