import type { JobShown } from '@meridiem/contract';
import { WorkBar } from './WorkBar.tsx';
import { percent } from '../words/format.ts';

interface WorkUnderWayProps {
  /** What is being done, without a full stop. */
  readonly words: string;
  /** What the bar measures. */
  readonly measured: string;
  readonly share: number;
  /** Null while there is nothing to stop. */
  readonly onStop: (() => void) | null;
}

/** Long work with how far it is, to be stopped. */
export const WorkUnderWay = ({ words, measured, share, onStop }: WorkUnderWayProps) => (
  <div className="mt-2">
    <p className="text-soft">
      {words}
      {share > 0 ? `, ${percent(share)} done` : ''}…
    </p>
    <div className="mt-1 flex items-center gap-4">
      <WorkBar share={share} words={measured} />
      <button type="button" className="act" disabled={!onStop} onClick={() => onStop?.()}>
        Stop
      </button>
    </div>
  </div>
);

/** Work that was stopped or failed, to be asked for again. */
export const WorkEnded = ({ words, again, onAgain }: { words: string; again: string; onAgain: () => void }) => (
  <p className="mt-2">
    {words}{' '}
    <button type="button" className="act ml-2" onClick={onAgain}>
      {again}
    </button>
  </p>
);

interface WorkStateProps {
  /** What `useStoredWork` says of it. */
  readonly work: {
    readonly data: unknown;
    readonly job: JobShown | null;
    readonly isWorking: boolean;
    readonly share: number;
    readonly stop: (() => void) | null;
    readonly ask: () => void;
  };
  readonly words: string;
  readonly measured: string;
  /** What asks for it again. */
  readonly again: string;
}

/** How far stored work is, or how it ended without an answer. */
export const WorkState = ({ work, words, measured, again }: WorkStateProps) => {
  const { data, job, isWorking, share, stop, ask } = work;
  return (
    <>
      {isWorking && data !== undefined && (
        <WorkUnderWay words={words} measured={measured} share={share} onStop={stop} />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again={again} onAgain={ask} />}
      {job?.state === 'failed' && <WorkEnded words={job.failure ?? 'It failed.'} again={again} onAgain={ask} />}
    </>
  );
};
