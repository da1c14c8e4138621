import type { MovedHours, Observatory, VisitJob } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { dayAndClock, degrees } from '../../../words/format.ts';
import type { VisitActs } from '../queries.ts';
import { useMeasuredAngles } from '../queries.ts';
import { flatsWords, hoursWords, missedWords, outcomeWords, typedDegrees, workWords } from '../view-model.ts';

interface JobLineProps {
  readonly job: VisitJob;
  /** The night of the visit: earlier frames show the angle before it. */
  readonly since: string;
  readonly moved: MovedHours;
  readonly observatory: Observatory;
  readonly hasHands: boolean;
  readonly acts: VisitActs;
}

/** One piece of work: what to do, what it leaves to be done, what came of it. */
export function JobLine({ job, since, moved, observatory, hasHands, acts }: JobLineProps) {
  const [isMeasuring, setMeasuring] = useState(false);
  const notice = useNotice();
  const rig = observatory.rigs.find(({ id }) => id === job.rigId);
  const outcome = outcomeWords(job);
  const missed = job.measuredDeg === null ? null : missedWords(job, job.measuredDeg, observatory);
  const settle = (outcomeNow: 'done' | 'left' | 'removed', done: string): void =>
    void acts.settle(job.id, { outcome: outcomeNow }).then(
      () => notice(done),
      (error: unknown) => notice(wordsOf(error), true),
    );
  return (
    <li className="rule py-2">
      <p>
        <span className="font-semibold">{rig?.name}</span>:{' '}
        {outcome ? settledWords(job, observatory) : workWords(job, observatory)}
      </p>
      {job.words && <p className="italic">{job.words}</p>}
      {outcome ? <p>{outcome}</p> : <p className="text-soft">{flatsWords(job, observatory)}</p>}
      {!outcome && moved.length > 0 && <p>By today’s counts it {hoursWords(moved)}</p>}
      {missed && <p className="text-signal">{missed}</p>}
      {hasHands && job.state === 'open' && !isMeasuring && (
        <div className="mt-1 flex flex-wrap gap-3">
          <button
            type="button"
            className="act act-strong"
            onClick={() => (job.work === 'angle' ? setMeasuring(true) : settle('done', 'Confirmed'))}
          >
            {job.work === 'angle' ? 'Enter measured angle' : 'Confirm as done'}
          </button>
          <button type="button" className="act" onClick={() => settle('left', 'Left undone')}>
            Not done
          </button>
          <button type="button" className="act" onClick={() => settle('removed', 'Work removed')}>
            Remove
          </button>
        </div>
      )}
      {isMeasuring && (
        <MeasuredAngle
          job={job}
          since={since}
          zone={observatory.timeZone}
          acts={acts}
          onClose={() => setMeasuring(false)}
        />
      )}
    </li>
  );
}

/** What is settled is said as it was meant: the camera has been turned since. */
const settledWords = (job: VisitJob, observatory: Observatory): string =>
  job.work === 'angle' ? `Turn the camera to ${degrees(job.skyAngleDeg!)}` : workWords(job, observatory);

/** The angle as measured: typed, or of a frame with world coordinates. */
function MeasuredAngle({
  job,
  since,
  zone,
  acts,
  onClose,
}: {
  job: VisitJob;
  since: string;
  zone: string;
  acts: VisitActs;
  onClose: () => void;
}) {
  const { data } = useMeasuredAngles(job.rigId);
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | undefined>();
  const notice = useNotice();
  const send = async (measured: { measuredDeg: number } | { exposureId: string }): Promise<void> => {
    try {
      await acts.settle(job.id, { outcome: 'done', ...measured });
      notice('Angle confirmed: nights are planned with it from now on');
      onClose();
    } catch (error) {
      setProblem(error instanceof ApiError ? error.message : wordsOf(error));
    }
  };
  return (
    <form
      aria-label="Measured angle"
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const measuredDeg = typedDegrees(text);
        if (measuredDeg === null) setProblem('Write degrees between 0 and 360, like 118.4');
        else void send({ measuredDeg });
      }}
    >
      <Labelled label="Position angle of the camera, degrees" error={problem}>
        <input
          className="w-24 text-right"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setProblem(undefined);
          }}
        />
      </Labelled>
      <button type="submit" className="act act-strong">
        Confirm angle
      </button>
      {(data?.frames ?? [])
        .filter(({ nightDate }) => nightDate >= since)
        .slice(0, 3)
        .map(({ exposureId, startUtcMs, skyAngleDeg }) => (
          <button key={exposureId} type="button" className="act" onClick={() => void send({ exposureId })}>
            Take {degrees(skyAngleDeg, 2)} from the frame of {dayAndClock(startUtcMs, zone)}
          </button>
        ))}
      <button type="button" className="act" onClick={onClose}>
        Cancel
      </button>
    </form>
  );
}
