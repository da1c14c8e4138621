import type { NightRun } from '@meridiem/contract';
import { Link } from 'react-router';
import { clock, clockSeconds } from '../../../words/format.ts';

const STATE_WORDS: Readonly<Record<NightRun['state'], string>> = {
  requested: 'Waiting for the runner',
  running: 'Playing',
  stopping: 'Stopping',
  stopped: 'Stopped by hand',
  finished: 'Played to the end',
};

interface RunLineProps {
  readonly run: NightRun;
  readonly zone: string;
  /** Where it is watched step by step; null where no devices carry it out. */
  readonly watchAt: string | null;
  readonly isSimulated: boolean;
}

/** What happens now and next, with counts that rise. */
export function RunLine({ run, zone, watchAt, isSimulated }: RunLineProps) {
  const share = run.stepsAll === 0 ? 0 : (run.stepsDone + run.stepsLost) / run.stepsAll;
  return (
    <div className="mt-2 border-l-2 border-brass bg-raised px-3 py-2" aria-label="The night as it plays" role="group">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <strong>
          {run.kind === 'rehearsal' && 'Rehearsal, limits lifted, nothing counts: '}
          {STATE_WORDS[run.state]}
        </strong>
        {run.kind === 'rehearsal' && run.expiresUtcMs !== null && (
          <span className="text-soft">ends by itself at sunset, {clock(run.expiresUtcMs, zone)}</span>
        )}
        {run.silent && run.heardUtcMs !== null && (
          <span role="alert" className="text-signal">
            No contact with the runner since {clockSeconds(run.heardUtcMs, zone)}; trying again
          </span>
        )}
        {run.clockUtcMs !== null && <span>observatory clock {clockSeconds(run.clockUtcMs, zone)}</span>}
        <span>
          {run.stepsDone} of {run.stepsAll} exposures{run.stepsLost > 0 && `, ${run.stepsLost} lost`}
        </span>
        {run.now && !run.silent && (
          <span>
            Now {run.now.panelName} through {run.now.filterLetter} until {clockSeconds(run.now.endsUtcMs, zone)}
          </span>
        )}
        {run.next && (
          <span className="text-soft">
            Next {run.next.panelName} through {run.next.filterLetter} at {clock(run.next.startsUtcMs, zone)}
          </span>
        )}
        {watchAt && (
          <Link className="word-link" to={watchAt}>
            Watch
          </Link>
        )}
        {isSimulated && <span className="ml-auto text-soft">simulated, {run.speed}×</span>}
      </div>
      <div className="mt-1 h-[3px] bg-hairline">
        <div className="h-full bg-brass" style={{ width: `${share * 100}%` }} />
      </div>
    </div>
  );
}
