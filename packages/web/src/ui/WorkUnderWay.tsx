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
