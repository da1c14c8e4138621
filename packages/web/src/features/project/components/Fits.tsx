import type { Goal } from '@meridiem/contract';
import { useState } from 'react';
import { hours } from '../../../words/format.ts';
import { useFits } from '../queries.ts';

interface FitsProps {
  readonly goal: Goal;
  /** Takes a count over as what is wanted in all; null where the viewer may look only. */
  readonly onTake: ((count: number) => void) | null;
}

/** How many exposures of a goal fit tonight and in the coming nights, to be taken over. */
export function Fits({ goal, onTake }: FitsProps) {
  const [nights, setNights] = useState(5);
  const { data } = useFits(goal.id, nights);
  const done = Math.round(goal.tally.done);
  const take = (count: number, words: string) =>
    onTake ? (
      <button type="button" className="word-link cursor-pointer" onClick={() => onTake(done + count)}>
        {words}
      </button>
    ) : (
      words
    );
  return (
    <div className="mt-3 border-t border-hairline pt-2">
      <h3 className="text-base">What fits</h3>
      {!data && <p className="text-soft">Looking at the coming nights</p>}
      {data && (
        <ul>
          <li>tonight {take(data.tonight, `${data.tonight} more`)}</li>
          <li>
            in{' '}
            <input
              aria-label="Nights to look ahead"
              className="w-[44px]"
              inputMode="numeric"
              value={nights}
              onChange={(event) => setNights(Math.min(60, Math.max(1, Number(event.target.value) || 1)))}
            />{' '}
            nights {take(data.nights, `${data.nights} more`)}, of {hours(data.usableHours)} usable hours
          </li>
          <li className="text-soft">
            {done} done already; one takes {Math.round(data.cycleSec)} s with overheads. Others may hold these hours.
          </li>
        </ul>
      )}
    </div>
  );
}
