import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { Choice } from '../../../ui/Choice.tsx';
import type { FitRowsWish } from '../fit-rows.ts';
import { fittedRows } from '../fit-rows.ts';
import type { WishRow } from '../goal-rows.ts';

const NIGHTS = [1, 3, 5, 10, 20];
const nightsWords = (count: number): string => (count === 1 ? 'tonight' : `${count} nights`);

/** One fit for all rows: how many of each fit into the coming nights together. */
export function FitRows({
  onTake,
  ...wish
}: Omit<FitRowsWish, 'nightCount'> & { readonly onTake: (rows: WishRow[]) => void }) {
  const [nightCount, setNightCount] = useState(1);
  const [outcome, setOutcome] = useState<{ words: string; isRefusal: boolean } | null>(null);
  const fit = (): void => {
    try {
      const { rows, words } = fittedRows({ ...wish, nightCount });
      onTake(rows);
      setOutcome({ words, isRefusal: false });
    } catch (error) {
      setOutcome({ words: wordsOf(error), isRefusal: true });
    }
  };
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-3">
      <button type="button" className="act" onClick={fit}>
        Fit all rows to
      </button>
      <Choice
        label="Nights to fit"
        value={String(nightCount)}
        options={NIGHTS.map((count) => ({ value: String(count), words: nightsWords(count) }))}
        onChoose={(value) => setNightCount(Number(value))}
      />
      <span className="text-soft">keeps the proportion of the counts typed; without any, as many of each</span>
      {outcome && (
        <span role={outcome.isRefusal ? 'alert' : 'status'} className={outcome.isRefusal ? 'text-signal' : ''}>
          {outcome.words}
        </span>
      )}
    </p>
  );
}
